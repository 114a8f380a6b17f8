import type { AsRead, CoolerAt, Effect, SwitchEffect } from '../session/model';
import { clock, sayTemperature } from './headline';
import { toFahrenheit, type TemperatureUnit } from './temperature';

/** What a switch is called in a sentence. */
const NAMES: Record<string, string> = {
  charging: 'charger',
  boost: 'boost',
  saving: 'saving mode',
  dimmed: 'dimming',
  folded: 'folding',
  docked: 'dock',
};

/** Switches that are meant to cool: what counts is the hottest spot. */
const COOLS: readonly string[] = ['cooler', 'fan'];

/**
 * What a switch did, in the words of comparing: each spot, the pace, the watts.
 * Of a cooler it is said where the hottest spot gained nothing.
 *
 * @returns null where nothing can be told
 * @shown What each switch did
 * @source docs/method.md, "Several titles on one clock"
 */
export function saySwitch({ kind, warmth, pace, watts }: SwitchEffect, unit: TemperatureUnit): string | null {
  const parts = [
    ...warmth.map((one) => `${one.spot} ${sayWarmer(one, unit)}`),
    pace === null ? null : `pace ${sayRatio(pace, 'more', 'less')}`,
    watts === null ? null : `power ${sayRatio(watts, 'more', 'less')}`,
  ].filter((part) => part !== null);
  if (parts.length === 0) return null;
  const [hottest] = [...warmth].sort((a, b) => b.withoutC - a.withoutC);
  const gained = !COOLS.includes(kind) || !hottest || hottest.verdict === 'second better';
  const missed = gained ? '' : ` No benefit at the critical spot: ${hottest.spot} is now the hottest.`;
  return `${NAMES[kind] ?? kind}: ${parts.join(', ')}.${missed}`;
}

/**
 * What was read before and after a switch, as it stands: it claims nothing of
 * where it would settle.
 *
 * @shown What each switch did: as read
 * @source docs/method.md, "Several titles on one clock"
 * @example
 * sayAsRead({ atS: 720, spot: 'back', kinds: ['cooler'], on: true, beforeC: 37, afterC: 33.5, overS: 720 }, 'C'); // '12:00 cooler on: back 37.0 → 33.5\u00a0°C in 12 min'
 */
export function sayAsRead(
  { atS, spot, kinds, on, beforeC, afterC, overS }: AsRead,
  unit: TemperatureUnit,
): string {
  const degrees = (celsius: number): string => (unit === 'F' ? toFahrenheit(celsius) : celsius).toFixed(1);
  const over = overS < 90 ? `${Math.round(overS)} s` : `${Math.round(overS / 60)} min`;
  const what = kinds.map((kind) => NAMES[kind] ?? kind).join(' and ');
  return `${clock(atS)} ${what} ${on === null ? 'switched' : on ? 'on' : 'off'}: ${spot} ${degrees(beforeC)} → ${degrees(afterC)}\u00a0°${unit} in ${over}`;
}

const OPEN: Partial<Record<Effect['verdict'], string>> = {
  'the same in practice': 'the same in practice',
  'no clear difference': 'no clear difference',
};

/** "4.1 °C ± 0.6 cooler" */
function sayWarmer({ by, interval, verdict }: Effect, unit: TemperatureUnit): string {
  const degrees = (celsius: number): string => Math.abs(unit === 'C' ? celsius : celsius * 1.8).toFixed(1);
  const half = degrees((interval[1] - interval[0]) / 2);
  // no thermometer tells less
  const doubt = half === '0.0' ? 'less than 0.1' : half;
  return OPEN[verdict] ?? `${degrees(by)}\u00a0°${unit} ± ${doubt} ${by < 0 ? 'cooler' : 'warmer'}`;
}

/** "7 % less (4 to 10 %)" */
function sayRatio({ by, interval, verdict }: Effect, more: string, less: string): string {
  const percent = (ratio: number): number => Math.round(Math.abs(ratio - 1) * 100);
  const [low, high] = [percent(interval[0]), percent(interval[1])].sort((a, b) => a - b);
  return OPEN[verdict] ?? `${percent(by)}\u00a0% ${by < 1 ? less : more} (${low} to ${high}\u00a0%)`;
}

/**
 * Where a cooler sat, and how warm its plate was.
 *
 * @example
 * sayCooler({ fromS: 720, toS: 1500, place: 'over the chip', plateC: null }, 'C'); // 'cooler from 12:00 to 25:00: over the chip'
 */
export const sayCooler = ({ fromS, toS, place, plateC }: CoolerAt, unit: TemperatureUnit): string =>
  `cooler from ${clock(fromS)} to ${clock(toS)}: ${[place, plateC === null ? null : `its plate at ${sayTemperature(plateC, unit)}`].filter(Boolean).join(', ')}`;
