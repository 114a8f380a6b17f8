import { median } from '../numbers/quantile';
import { thin } from '../numbers/thin';
import { above, below } from '../numbers/threshold';
import { CHIP_PARTS, POWER_PLACES } from '../vocabulary';
import type { ChipReading, LinkReading, LoadReading, PowerReading } from './readings';

/** One thing that was measured beside the pace, over the run's clock. */
export interface DoingSeries {
  /** What it is, for instance "cpu" or "power at the wall". */
  of: string;
  unit: '%' | 'MB' | '°C' | 'W' | 'ms' | 'Mbit/s';
  mean: number | null;
  most: number | null;
  /** Ones that cannot be are marked and enter neither mean nor most; ones that nobody timed are not drawn. */
  points: Point[];
}

interface Point {
  atMs: number;
  value: number;
  doubtful: boolean;
}

/** A value as it was read: of a time, of the whole run, or the highest that was seen. */
interface Read extends Point {
  whole?: boolean | undefined;
  peak?: boolean | undefined;
}

/** What a device was doing: one series for each thing and place, never mixed. */
export type Doing = DoingSeries[];

/** Points of a series that are kept to be drawn. */
const SHOWN = 600;
/** A processor that is never busier than this while frames flow is no reading, %. */
const IDLE = 0.5;

/**
 * Loads, memory, temperatures inside, power and the link, each by where it was measured.
 *
 * @param hasFrames frames flowed: then a processor cannot have been idle throughout
 * @shown What it was doing
 * @source docs/method.md, "Caveats", implausible-sensor
 */
export function doingOf(
  loads: LoadReading[],
  chip: ChipReading[],
  power: { kept: PowerReading[]; doubtful: PowerReading[] },
  links: LinkReading[],
  hasFrames: boolean,
): Doing {
  const series: Doing = [];
  const add = (of: string, unit: DoingSeries['unit'], all: Read[]): void => {
    if (all.length === 0) return;
    const kept = all.filter((one) => !one.doubtful);
    // the highest says nothing of a mean
    const values = kept.filter((one) => !one.peak).map((one) => one.value);
    const highest = kept.map((one) => one.value);
    const inTime = all
      .filter((one) => !one.whole && !one.peak)
      .map(({ atMs, value, doubtful }) => ({ atMs, value, doubtful }))
      .sort((a, b) => a.atMs - b.atMs);
    series.push({
      of,
      unit,
      mean: values.length === 0 ? null : values.reduce((sum, value) => sum + value, 0) / values.length,
      most: highest.length === 0 ? null : highest.reduce((a, b) => Math.max(a, b)),
      points: thin(inTime, SHOWN, (point) => point.value),
    });
  };
  for (const part of ['cpu', 'gpu'] as const) {
    const read = loads.flatMap((load) =>
      load[part] === undefined ? [] : [{ atMs: load.atMs, value: load[part], whole: load.whole }],
    );
    const idle = idles(
      read.map((point) => point.value),
      hasFrames,
    );
    add(
      part,
      '%',
      read.map((point) => ({ ...point, doubtful: idle || outOfRange(point.value) })),
    );
  }
  add(
    'memory',
    'MB',
    loads.flatMap(({ atMs, memoryMb, whole }) =>
      memoryMb === undefined ? [] : [{ atMs, value: memoryMb, doubtful: false, whole }],
    ),
  );
  for (const part of CHIP_PARTS)
    add(
      `${part} inside`,
      '°C',
      chip.filter((one) => one.part === part).map(({ c, ...one }) => ({ ...one, value: c, doubtful: false })),
    );
  for (const place of POWER_PLACES) {
    const here = ({ of }: PowerReading): boolean => (of ?? 'device') === place;
    const watts =
      (doubtful: boolean) =>
      ({ mw, ...one }: PowerReading): Read => ({ ...one, value: mw / 1000, doubtful });
    add(`power, ${place}`, 'W', [
      ...power.kept.filter(here).map(watts(false)),
      ...power.doubtful.filter(here).map(watts(true)),
    ]);
  }
  for (const [of, unit, fact] of LINK_FACTS)
    add(
      of,
      unit,
      links.flatMap((link) =>
        link[fact] === undefined ? [] : [{ atMs: link.atMs, value: link[fact], doubtful: false }],
      ),
    );
  return series;
}

const LINK_FACTS = [
  ['latency', 'ms', 'latencyMs'],
  ['loss', '%', 'lossPercent'],
  ['bit rate', 'Mbit/s', 'mbps'],
] as const;

/** A load outside 0 to 100 %. */
export const outOfRange = (percent: number): boolean => below(percent, 0) || above(percent, 100);

/** Whether a processor is said to have idled while frames flowed. */
export function idles(percents: number[], hasFrames: boolean): boolean {
  const middle = median(percents);
  return hasFrames && middle !== null && below(middle, IDLE);
}
