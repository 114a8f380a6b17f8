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
    by('frames') > 0 ? `frames were logged in ${by('frames')}` : '',
    by('read') > 0 ? `rates were read off a counter in ${by('read')}` : '',
    by('eye') > 0 ? `estimated by eye in ${by('eye')}` : '',
  ].filter(Boolean);
  const instruments = [...new Set(runs.flatMap((run) => run.figures.spots.map((spot) => spot.by)))];
  const unknown = runs.length - rooms.length;
  return [
    `${many(runs.length, 'run')} on ${list(devices)}${lengthOf(runs)}.`,
    sources.length > 0 ? `${upper(sources.join(', '))}.` : '',
    instruments.length > 0 ? `Skin temperatures by ${list(instruments)}.` : '',
    rooms.length > 0
      ? `The room was at ${sayTemperature(least(rooms), unit)}${greatest(rooms) - least(rooms) > 0.05 ? ` to ${sayTemperature(greatest(rooms), unit)}` : ''}${unknown > 0 ? `, and unknown in ${unknown}` : ''}.`
      : 'The room temperature was not noted.',
    // of frames it is said only where somebody logged them
    by('frames') === 0
      ? ''
      : school === 'median-and-hold'
        ? 'The median is that of the pace of each second; hold is the share of seconds within a fifth of it.'
        : 'The average is frames by time; the 1 % low is the rate that 99 % of the frame times keep.',
    'A sustained figure takes a quarter of an hour.',
  ]
    .filter(Boolean)
    .join(' ');
}

/** ", 2:30:00 in all": of the runs whose length is known. */
function lengthOf(runs: readonly ReviewRun[]): string {
  const known = runs.filter((run) => run.figures.seconds > 0);
  if (known.length === 0) return ', nobody noted how long';
  const all = clock(known.reduce((sum, run) => sum + run.figures.seconds, 0));
  return `, ${all} in all${known.length < runs.length ? ` (${runs.length - known.length} of unknown length left aside)` : ''}`;
}
