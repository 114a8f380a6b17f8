import { meanOfKnown } from '../numbers/mean';
import { probeSpeed, type LadderProbe, type LadderSearch } from './search';

/** What a power limit gives, as far as it was seen. */
export interface PowerRow {
  rung: string;
  /** W, as its name says; null where it says none. */
  limitW: number | null;
  /** What the device is delivered with, or its boost. */
  mark: 'usual' | 'boost' | null;
  /** Mean of what was seen, as a share of full speed. */
  speed: number | null;
  /** Mean of what the device took, W. */
  watts: number | null;
  /** Energy of one frame, mJ: watts over frames per second. */
  perFrameMj: number | null;
  /** From full to flat at that power, h. */
  hours: number | null;
}

/** What a device is known to have. */
export interface PowerOfDevice {
  batteryWh: number | null;
  powerW: number | null;
  boostW: number | null;
}

/** "15 W" is 15; null for a name without watts. */
export function wattsOf(rung: string): number | null {
  const watts = /^(\d+(?:[.,]\d+)?)\s*w(?:atts?)?$/i.exec(rung.trim())?.[1];
  return watts === undefined ? null : Number(watts.replace(',', '.'));
}

/**
 * What each power limit of a search gives: speed, watts, energy of a frame, hours.
 *
 * Only what was measured counts: a limit is a limit of the chip, and the screen
 * takes its share on top. First plays are left out.
 *
 * @shown Power limits
 * @source docs/method.md, "Power limits"
 */
export function powerRows(
  search: Pick<LadderSearch, 'rungs' | 'full' | 'probes'>,
  device: PowerOfDevice,
): PowerRow[] {
  const { rungs, full, probes } = search;
  return rungs.map(({ name }) => {
    const own = probes.filter((probe) => probe.rung === name && !probe.firstPlay);
    // a word says whether it holds, and nothing of how fast
    const measured = own.filter((probe) => probe.percent !== null || probe.fps !== null);
    const speed = meanOfKnown(measured.map((probe) => probeSpeed(probe, full)));
    const fps = meanOfKnown(measured.map((probe) => fpsOf(probe, full)));
    const watts = meanOfKnown(own.map((probe) => probe.watts));
    const limitW = wattsOf(name);
    return {
      rung: name,
      limitW,
      mark:
        limitW === null
          ? null
          : limitW === device.powerW
            ? 'usual'
            : limitW === device.boostW
              ? 'boost'
              : null,
      speed,
      watts,
      perFrameMj: watts !== null && fps !== null && fps > 0 ? (watts * 1000) / fps : null,
      hours: watts !== null && device.batteryWh !== null ? device.batteryWh / watts : null,
    };
  });
}

const fpsOf = ({ fps, percent }: LadderProbe, full: number | null): number | null =>
  fps ?? (percent !== null && full !== null ? (percent / 100) * full : null);

/** "15 W: full speed, 12.4 W taken, 207 mJ a frame, 3.8 h" */
export function sayPowerRow(row: PowerRow): string {
  const { rung, mark, speed, watts, perFrameMj, hours } = row;
  return `${rung}${mark === null ? '' : ` (${mark})`}: ${
    [
      speed === null ? null : `${Math.round(speed * 100)}\u00a0% of full speed`,
      watts === null ? null : `${watts.toFixed(1)}\u00a0W used`,
      perFrameMj === null ? null : `${Math.round(perFrameMj)}\u00a0mJ per frame`,
      hours === null ? null : `${hours.toFixed(1)}\u00a0h from a full battery`,
    ]
      .filter(Boolean)
      .join(', ') || 'not tested'
  }`;
}
