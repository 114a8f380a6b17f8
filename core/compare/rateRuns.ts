import { playedName } from '../runFile/runInput';
import { RATING_PARTS, type RatingPart, type RunMeasure } from '../vocabulary';
import type { RunOfSide } from './comparable';
import type { RatedDevice, RatingParts } from './rating';

/** Why what was played counts for no part. */
export type LeftOutReason = 'not on all' | 'streamed' | 'synthetic';

/** What devices are rated by. */
export interface RatedTitles {
  devices: RatedDevice[];
  /** What all devices have a run or an outcome of: title with setup. */
  common: string[];
  leftOut: { title: string; reason: LeftOutReason }[];
}

/** A device's run, and whether its title is a synthetic benchmark. */
export interface RunToRate extends RunOfSide {
  synthetic: boolean;
}

/**
 * The parts of devices over the titles that all of them have a run of.
 *
 * Repeats are averaged first, then titles. What did not start or crashed has
 * no pace, evenness and stamina. The standard deviation of each part follows
 * from how much runs of one kind differ, breaks as a Poisson count.
 *
 * @param runs of each device, by its name
 * @param sdOf standard deviation of one run: of the logarithm, °C for the rise
 * @shown Rating: parts, titles in common
 * @source docs/method.md, "Rating"; common practice
 */
export function rateRuns(
  runs: readonly { name: string; runs: readonly RunToRate[] }[],
  sdOf: (measure: RunMeasure) => number,
): RatedTitles {
  const played = [...new Set(runs.flatMap((device) => device.runs.map(nameOf)))].filter(
    (title): title is string => title !== null,
  );
  const all = runs.flatMap((device) => device.runs);
  const common: string[] = [];
  const leftOut: RatedTitles['leftOut'] = [];
  for (const title of played) {
    const reason = reasonAgainst(
      title,
      all.filter((run) => nameOf(run) === title),
      runs,
    );
    if (reason === null) common.push(title);
    else leftOut.push({ title, reason });
  }
  return {
    devices: runs.map(({ name, runs: own }) => ({
      name,
      ...overTitles(
        common.map((title) => {
          const ofTitle = (run: RunOfSide): boolean => nameOf(run) === title;
          return repeats(own.filter(ofTitle), referenceOf(all.filter(ofTitle)), sdOf);
        }),
      ),
    })),
    common,
    leftOut,
  };
}

const nameOf = ({ stated }: RunOfSide): string | null =>
  stated.title === null ? null : playedName(stated.title, stated.setup);

function reasonAgainst(
  title: string,
  ofTitle: readonly RunToRate[],
  devices: readonly { runs: readonly RunToRate[] }[],
): LeftOutReason | null {
  if (ofTitle.some((run) => run.synthetic)) return 'synthetic';
  if (ofTitle.some((run) => run.stated.conditions.includes('streamed'))) return 'streamed';
  return devices.every((device) => device.runs.some((run) => nameOf(run) === title)) ? null : 'not on all';
}

/** The highest target or cap of a title among the devices. */
function referenceOf(runs: readonly RunOfSide[]): number | null {
  const rates = runs.flatMap(({ stated, figures }) => [stated.target ?? [], figures.cap ?? []].flat());
  return rates.length === 0 ? null : Math.max(...rates);
}

/** A part with its standard deviation. */
type Part = { value: number; sd: number } | null;
type Parts = Record<RatingPart, Part>;

/** 0 at `from`, 100 at `to`, straight between, held at the ends. */
const points = (value: number, from: number, to: number): number =>
  Math.min(100, Math.max(0, ((value - from) / (to - from)) * 100));

const NOTHING: Part = { value: 0, sd: 0 };

/**
 * The parts of one run.
 *
 * @param reference highest target or cap of the title, frames per second; null: no pace
 * @source docs/method.md, "Rating"
 */
export function partsOfRun(
  { figures }: RunOfSide,
  reference: number | null,
  sdOf: (measure: RunMeasure) => number,
): Parts {
  const failed = figures.ended === 'crash' || figures.ended === 'would-not-start';
  const average = figures.values.average?.value ?? null;
  const hours = figures.values.hoursFromFull?.value ?? null;
  const { retention, normalisedPeakC } = figures;
  return {
    pace: failed
      ? NOTHING
      : average === null || reference === null
        ? null
        : {
            value: points(average / reference, 0.5, 1),
            sd: ((100 / 0.5) * average * sdOf('average')) / reference,
          },
    evenness: failed ? NOTHING : evennessPart(figures),
    stamina: failed
      ? NOTHING
      : retention === null
        ? null
        : { value: points(retention, 0.5, 1), sd: (100 / 0.5) * retention * sdOf('closing') },
    warmth:
      normalisedPeakC === null
        ? null
        : { value: points(normalisedPeakC, 48, 36), sd: (100 / 12) * sdOf('peakRise') },
    drain:
      hours === null
        ? null
        : { value: points(hours, 1.5, 8), sd: (100 / 6.5) * hours * sdOf('hoursFromFull') },
  };
}

function evennessPart({ evenness, breaks }: RunOfSide['figures']): Part {
  const { late, stutters, stalls, freezes } = evenness;
  if (late === null || stutters === null || stalls === null || freezes === null || breaks === null)
    return null;
  const tenMinutes = breaks.minutes / 10;
  const kinds = [
    { count: stutters, cost: 2 },
    { count: stalls, cost: 10 },
    { count: freezes, cost: 20 },
  ];
  const cost = kinds.reduce((sum, kind) => sum + kind.count * kind.cost, 0) / tenMinutes;
  const variance = kinds.reduce((sum, kind) => sum + kind.count * kind.cost ** 2, 0) / tenMinutes ** 2;
  return { value: 100 - 60 * Math.min(1, late / 0.1) - Math.min(40, cost), sd: Math.sqrt(variance) };
}

/** Repeats of one title, averaged part by part. */
function repeats(
  runs: readonly RunOfSide[],
  reference: number | null,
  sdOf: (measure: RunMeasure) => number,
): Parts {
  return averaged(runs.map((run) => partsOfRun(run, reference, sdOf)));
}

/** The mean of each part over those that have it. */
function averaged(several: Parts[]): Parts {
  return Object.fromEntries(
    RATING_PARTS.map((part) => {
      const there = several.flatMap((parts) => parts[part] ?? []);
      const n = there.length;
      return [
        part,
        n === 0
          ? null
          : {
              value: there.reduce((sum, { value }) => sum + value, 0) / n,
              sd: Math.sqrt(there.reduce((sum, { sd }) => sum + sd ** 2, 0)) / n,
            },
      ];
    }),
  ) as Parts;
}

function overTitles(titles: Parts[]): { parts: RatingParts; sd: RatedDevice['sd'] } {
  const means = averaged(titles);
  return {
    parts: Object.fromEntries(RATING_PARTS.map((part) => [part, means[part]?.value ?? null])) as RatingParts,
    sd: Object.fromEntries(RATING_PARTS.flatMap((part) => (means[part] ? [[part, means[part].sd]] : []))),
  };
}
