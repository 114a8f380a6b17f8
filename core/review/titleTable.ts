import { groupKey, onScale } from '../compare/spread';
import { greatest } from '../numbers/thin';
import type { Ends } from '../readOff/ends';
import type { RunMeasure } from '../vocabulary';
import { SOURCE_NAMES } from '../words/compareWords';
import { hoursAndMinutes, rate, sayTemperature, type School, type Voice } from '../words/headline';
import type { ReviewRun } from './model';

/** A row of the table of titles: the runs of one device, title and setup. */
export interface TitleRow {
  device: string;
  title: string;
  setup: string | null;
  runs: number;
  /** Frames per second: the median or the average, by the school. */
  lead: number | null;
  low: number | null;
  word: string | null;
  playable: string | null;
  peakC: number | null;
  watts: number | null;
  hoursFromFull: number | null;
  /** How the rates are known. */
  source: 'frames' | 'read' | 'eye' | null;
  /** Ends of the leading rate where it was read off: means over the runs. */
  ends: Ends | null;
  ended: string | null;
}

/**
 * The table of titles, device by device, in the order of their names.
 *
 * @source means as two sides are compared by: docs/method.md, "Difference between two sides"
 */
export function titleTable(runs: readonly ReviewRun[], school: School): TitleRow[] {
  const groups = new Map<string, ReviewRun[]>();
  for (const run of runs) {
    const key = groupKey(run.stated) ?? run.id;
    groups.set(key, [...(groups.get(key) ?? []), run]);
  }
  return [...groups.values()]
    .map((own) => rowOf(own, school))
    .sort((a, b) =>
      `${a.device} ${a.title} ${a.setup ?? ''}`.localeCompare(`${b.device} ${b.title} ${b.setup ?? ''}`),
    );
}

function rowOf(own: ReviewRun[], school: School): TitleRow {
  const [first] = own as [ReviewRun];
  const mean = (measure: RunMeasure): number | null => {
    const values = onScale(
      measure,
      own.map((run) => run.figures.values[measure]?.value),
    );
    return values.length === 0
      ? null
      : Math.exp(values.reduce((sum, value) => sum + value, 0) / values.length);
  };
  const peaks = own.flatMap((run) => run.figures.peakC ?? []);
  const last = own.at(-1)!.figures;
  return {
    device: first.stated.device ?? '',
    title: first.stated.title ?? '',
    setup: first.stated.setup,
    runs: own.length,
    lead: mean(school === 'median-and-hold' ? 'median' : 'average') ?? mean('average'),
    low: mean('onePercentLow'),
    word: last.word,
    playable: last.playable,
    peakC: peaks.length === 0 ? null : greatest(peaks),
    watts: mean('watts'),
    hoursFromFull: mean('hoursFromFull'),
    source: last.source,
    ends: endsOf(own, school),
    ended: own.some((run) => run.figures.ended === 'crash')
      ? 'DNF'
      : own.every((run) => run.figures.ended === 'would-not-start')
        ? 'DNS'
        : null,
  };
}

/** Of what was read off: the mean of the runs' ends; null where frames were logged. */
function endsOf(own: readonly ReviewRun[], school: School): Ends | null {
  const measure = school === 'median-and-hold' ? 'median' : 'average';
  const ends = own.flatMap((run) => (run.figures.values[measure] ?? run.figures.values.average)?.ends ?? []);
  if (ends.length === 0) return null;
  const mean = (values: number[]): number => values.reduce((sum, value) => sum + value, 0) / values.length;
  return {
    low: mean(ends.map((one) => one.low)),
    high: ends.some((one) => one.high === null) ? null : mean(ends.map((one) => one.high!)),
  };
}

/** Heads of the table of titles, and a row of it in words. */
export function titleCells(voice: Voice): { heads: string[]; cells: (row: TitleRow) => string[] } {
  const or = <T>(value: T | null, say: (value: T) => string): string => (value === null ? '–' : say(value));
  return {
    heads: [
      'Device',
      'Title',
      'Setting',
      voice.school === 'median-and-hold' ? 'Median, fps' : 'Average, fps',
      '1 % low',
      'Stamina',
      'Plays',
      `Peak, °${voice.unit}`,
      'Watts',
      'From full',
      'Known from',
    ],
    cells: (row) => [
      row.device,
      row.title,
      row.setup ?? '–',
      row.ended === 'DNS' ? 'DNS' : or(row.lead, rate),
      or(row.low, rate),
      row.ended ?? row.word ?? '–',
      row.playable ?? '–',
      or(row.peakC, (c) => sayTemperature(c, voice.unit).replace(/\u00a0.*$/, '')),
      or(row.watts, (watts) => watts.toFixed(1)),
      or(row.hoursFromFull, hoursAndMinutes),
      `${row.source === null ? '–' : (SOURCE_NAMES[row.source] ?? row.source)}, ${row.runs} run${row.runs === 1 ? '' : 's'}`,
    ],
  };
}
