import { hoursKnown } from '../compare/comparable';
import { groupKey, onScale } from '../compare/spread';
import { greatest } from '../numbers/thin';
import type { Ends } from '../readOff/ends';
import type { RunMeasure } from '../vocabulary';
import { SOURCE_NAMES } from '../words/compareWords';
import { writtenHull } from '../readOff/readSaid';
import { rate, sayHours, sayReadShort, sayTemperature, type School, type Voice } from '../words/headline';
import type { ReviewRun } from './model';

/** A row of the table of titles: the runs of one device, title and setup. */
export interface TitleRow {
  device: string;
  title: string;
  setup: string | null;
  runs: number;
  /** Frames per second: the median or the average, by the school; null where rates were read off, and nobody saw one. */
  lead: number | null;
  /** What was read off instead, as it was written. */
  said: string | null;
  low: number | null;
  word: string | null;
  playable: string | null;
  peakC: number | null;
  /** That was written as "about". */
  peakAbout: boolean;
  watts: number | null;
  hoursFromFull: number | null;
  /** The same as far as the readings allow to say it. */
  hours: { low: number; high: number | null } | null;
  /** How the rates are known. */
  source: 'frames' | 'read' | 'eye' | null;
  /** The least and the most that was written of it; null where frames were logged. */
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
  const logged = own.filter((run) => run.figures.source === 'frames');
  // a rate that was read is not mixed into those of frames
  const mean = (measure: RunMeasure): number | null => {
    const paced = (['average', 'median', 'closing', 'onePercentLow'] as RunMeasure[]).includes(measure);
    const of = paced && logged.length > 0 ? logged : own;
    const values = onScale(
      measure,
      of.map((run) => run.figures.values[measure]?.value),
    );
    return values.length === 0
      ? null
      : Math.exp(values.reduce((sum, value) => sum + value, 0) / values.length);
  };
  const read = own.flatMap((run) => run.figures.said ?? []);
  const hull = logged.length > 0 ? null : writtenHull(read);
  const leading = logged.length > 0 || read.length === 0;
  const peaks = own.flatMap((run) => run.figures.peakC ?? []);
  const last = own.at(-1)!.figures;
  return {
    device: first.stated.device ?? '',
    title: first.stated.title ?? '',
    setup: first.stated.setup,
    runs: own.length,
    lead: leading ? (mean(school === 'median-and-hold' ? 'median' : 'average') ?? mean('average')) : null,
    said:
      hull &&
      (read.length === 1
        ? sayReadShort(read[0]!)
        : `${hull.bare}${hull.unit === 'fps' ? '' : '\u00a0% speed'}`),
    low: mean('onePercentLow'),
    word: last.word,
    playable: last.playable,
    peakC: peaks.length === 0 ? null : greatest(peaks),
    peakAbout:
      peaks.length > 0 &&
      own.every(({ figures }) => figures.peakC !== greatest(peaks) || figures.peakAbout === true),
    watts: mean('watts'),
    hoursFromFull: mean('hoursFromFull'),
    hours: hoursOf(own, mean('hoursFromFull')),
    source: last.source,
    ends: hull && { low: hull.low ?? 0, high: hull.high },
    ended: own.some((run) => run.figures.ended === 'crash')
      ? 'DNF'
      : own.every((run) => run.figures.ended === 'would-not-start')
        ? 'DNS'
        : null,
  };
}

/** Where every run is sure their mean, else the least and the most; null where nobody may say it. */
function hoursOf(own: readonly ReviewRun[], mean: number | null): TitleRow['hours'] {
  const said = own.flatMap(({ figures }) => hoursKnown(figures) ?? []);
  if (said.length === 0) return null;
  if (mean !== null && said.every(({ low, high }) => low === high)) return { low: mean, high: mean };
  return {
    low: Math.min(...said.map(({ low }) => low)),
    high: said.some(({ high }) => high === null) ? null : Math.max(...said.map(({ high }) => high!)),
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
      'Source',
    ],
    cells: (row) => [
      row.device,
      row.title,
      row.setup ?? '–',
      row.ended === 'DNS' ? 'DNS' : (row.said ?? or(row.lead, rate)),
      or(row.low, rate),
      row.ended ?? row.word ?? '–',
      row.playable ?? '–',
      or(
        row.peakC,
        (c) => `${row.peakAbout ? 'about ' : ''}${sayTemperature(c, voice.unit).replace(/\u00a0.*$/, '')}`,
      ),
      or(row.watts, (watts) => watts.toFixed(1)),
      or(row.hours, sayHours),
      `${row.source === null ? '–' : (SOURCE_NAMES[row.source] ?? row.source)}, ${row.runs} run${row.runs === 1 ? '' : 's'}`,
    ],
  };
}
