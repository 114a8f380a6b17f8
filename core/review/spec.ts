import type { DeviceKind } from '../plan/habits';
import type { ReviewDevice } from './model';

/** Facts of a device that a card of it may hold; each may be unknown. */
export interface SpecFacts {
  kind?: DeviceKind | undefined;
  chip?: string | undefined;
  graphics?: string | undefined;
  memoryGb?: number | undefined;
  storageGb?: number | undefined;
  batteryMah?: number | undefined;
  batteryWh?: number | undefined;
  screens?:
    | {
        name?: string | undefined;
        inches?: number | undefined;
        widthPx?: number | undefined;
        heightPx?: number | undefined;
        refreshHz?: number[] | undefined;
        adaptive?: boolean | undefined;
      }[]
    | undefined;
  back?: string | undefined;
  cooling?: string | undefined;
  powerW?: number | undefined;
  boostW?: number | undefined;
  system?: string | undefined;
  build?: string | undefined;
  firmware?: string | undefined;
  chargerW?: number | undefined;
}

/**
 * Facts of a device in words, in the order that one reads them; nothing is said of what nobody noted.
 *
 * @example
 * specFacts({ chip: 'Tarn T4', batteryMah: 4700 }); // [{ label: 'Chip', value: 'Tarn T4' }, { label: 'Battery', value: '4700\u00a0mAh' }]
 */
export function specFacts(facts: SpecFacts): ReviewDevice['facts'] {
  const unit = (value: number | undefined, of: string): string | null =>
    value === undefined ? null : `${Math.round(value * 10) / 10}\u00a0${of}`;
  const both = (...parts: (string | null | undefined)[]): string | null =>
    parts.filter(Boolean).join(', ') || null;
  const rows: [string, string | null | undefined][] = [
    ['Chip', facts.chip],
    ['Graphics', facts.graphics],
    ['Memory', both(unit(facts.memoryGb, 'GB'), unit(facts.storageGb, 'GB storage'))],
    ['Battery', both(unit(facts.batteryMah, 'mAh'), unit(facts.batteryWh, 'Wh'))],
    ...(facts.screens ?? []).map((screen, i): [string, string | null] => [
      screen.name ?? ((facts.screens ?? []).length > 1 ? `Screen ${i + 1}` : 'Screen'),
      both(
        unit(screen.inches, 'in'),
        screen.widthPx === undefined || screen.heightPx === undefined
          ? null
          : `${screen.widthPx} × ${screen.heightPx}`,
        screen.refreshHz && screen.refreshHz.length > 0
          ? `${screen.refreshHz.join(' / ')}\u00a0Hz${screen.adaptive ? ' adaptive' : ''}`
          : null,
      ),
    ]),
    [
      'Power',
      both(unit(facts.powerW, 'W'), facts.boostW === undefined ? null : `${facts.boostW}\u00a0W boost`),
    ],
    ['Back', facts.back],
    ['Cooling', facts.cooling],
    ['System', both(facts.system, facts.build)],
    ['Firmware', facts.firmware === 'pre-release' ? 'pre-release' : facts.firmware],
    ['Charger', unit(facts.chargerW, 'W')],
  ];
  return rows.flatMap(([label, value]) => (value ? [{ label, value }] : []));
}
