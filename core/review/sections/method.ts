import { clock, sayTemperature, type Voice } from '../../words/headline';
import { greatest, least } from '../../numbers/thin';
import { linesBlock, type SectionOf } from '../blocks';
import type { ReviewRun } from '../model';
import { list, many, upper } from './say';

/** How it was tested: on what, in which room, by which instruments and definitions. */
export const METHOD: SectionOf = {
  kind: 'method',
  title: 'How it was tested',
  blocks: ({ runs }, voice) => (runs.length === 0 ? [] : linesBlock([methodLine(runs, voice)])),
};

function methodLine(runs: readonly ReviewRun[], { unit, school }: Voice): string {
  const devices = [...new Set(runs.map((run) => run.stated.device ?? 'an unknown device'))];
  const rooms = runs.flatMap((run) => run.stated.roomC ?? []);
  const by = (source: 'frames' | 'read' | 'eye'): number =>
    runs.filter((run) => run.figures.source === source).length;
  const sources = [
    by('frames') > 0 ? `frames logged in ${by('frames')}` : '',
    by('read') > 0 ? `rates read from a counter in ${by('read')}` : '',
    by('eye') > 0 ? `rates estimated by eye in ${by('eye')}` : '',
  ].filter(Boolean);
  const instruments = [...new Set(runs.flatMap((run) => run.figures.spots.map((spot) => spot.by)))];
  const unknown = runs.length - rooms.length;
  return [
    `${many(runs.length, 'run')} on ${list(devices)}${lengthOf(runs)}.`,
    sources.length > 0 ? `${upper(sources.join(', '))}.` : '',
    instruments.length > 0 ? `Skin temperatures by ${list(instruments)}.` : '',
    rooms.length > 0
      ? `Room temperature ${sayTemperature(least(rooms), unit)}${greatest(rooms) - least(rooms) > 0.05 ? ` to ${sayTemperature(greatest(rooms), unit)}` : ''}${unknown > 0 ? `, unknown in ${unknown}` : ''}.`
      : 'Room temperature was not recorded.',
    // of frames it is said only where somebody logged them
    by('frames') === 0
      ? ''
      : school === 'median-and-hold'
        ? 'Median: middle of the per-second values. Near median: share of seconds within 20 % of it.'
        : 'Average: frames divided by time. 1 % low: 99 % of frames are at least this fast.',
    'Sustained figures need a run of at least 15 minutes.',
  ]
    .filter(Boolean)
    .join(' ');
}

/** ", 2:30:00 in all": of the runs whose length is known. */
function lengthOf(runs: readonly ReviewRun[]): string {
  const known = runs.filter((run) => run.figures.seconds > 0);
  if (known.length === 0) return ', length unknown';
  const all = clock(known.reduce((sum, run) => sum + run.figures.seconds, 0));
  return `, ${all} in all${known.length < runs.length ? ` (${runs.length - known.length} of unknown length left aside)` : ''}`;
}
