import { caveatSentence } from '../figures/caveats';
import { clock, hoursAndMinutes, sayTemperature, type Voice } from '../words/headline';
import { CAVEATS } from '../vocabulary';
import { greatest } from '../numbers/thin';
import type { ReviewRun, SectionKind } from './model';

/**
 * What a section says from its runs alone, in plain and cautious sentences: it stands before the words, and changes with the runs until it is published. Nothing is said that nobody measured.
 *
 * @returns lines; empty where the runs say nothing
 * @source docs/method.md, "Reviews"
 */
export function evidenceLines(kind: SectionKind, runs: readonly ReviewRun[], voice: Voice): string {
  if (runs.length === 0) return '';
  switch (kind) {
    case 'method':
      return method(runs, voice);
    case 'warmth':
      return warmth(runs, voice);
    case 'drain':
      return drain(runs);
    case 'not-run':
      return notRun(runs);
    case 'caveats':
      return caveats(runs);
    default:
      return '';
  }
}

const many = (count: number, one: string): string => `${count} ${one}${count === 1 ? '' : 's'}`;
const list = (words: string[]): string =>
  words.length < 2 ? (words[0] ?? '') : `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`;

function method(runs: readonly ReviewRun[], { unit, school }: Voice): string {
  const devices = [...new Set(runs.map((run) => run.stated.device ?? 'an unknown device'))];
  const rooms = runs.flatMap((run) => run.stated.roomC ?? []);
  const by = (source: 'frames' | 'read' | 'eye'): number =>
    runs.filter((run) => run.figures.source === source).length;
  const sources = [
    by('frames') > 0 ? `frames were logged in ${by('frames')}` : '',
    by('read') > 0 ? `rates were read off a counter in ${by('read')}` : '',
    by('eye') > 0 ? `estimated by eye in ${by('eye')}` : '',
  ].filter(Boolean);
  const unknown = runs.length - rooms.length;
  return [
    `${many(runs.length, 'run')} on ${list(devices)}, ${clock(runs.reduce((sum, run) => sum + run.figures.seconds, 0))} in all.`,
    sources.length > 0 ? `${upper(sources.join(', '))}.` : '',
    rooms.length > 0
      ? `The room was at ${sayTemperature(Math.min(...rooms), unit)}${Math.max(...rooms) - Math.min(...rooms) > 0.05 ? ` to ${sayTemperature(greatest(rooms), unit)}` : ''}${unknown > 0 ? `, and unknown in ${unknown}` : ''}.`
      : 'The room temperature was not noted.',
    school === 'median-and-hold'
      ? 'The median is that of the pace of each second; hold is the share of seconds within a fifth of it.'
      : 'The average is frames by time; the 1 % low is the rate that 99 % of the frame times keep.',
    'A sustained figure takes a quarter of an hour.',
  ]
    .filter(Boolean)
    .join(' ');
}

const upper = (text: string): string => `${text[0]?.toUpperCase() ?? ''}${text.slice(1)}`;

function warmth(runs: readonly ReviewRun[], { unit }: Voice): string {
  const [hottest] = runs
    .filter((run) => run.figures.peakC !== null)
    .sort((a, b) => b.figures.peakC! - a.figures.peakC!);
  if (!hottest) return '';
  const { peakC, spots } = hottest.figures;
  const spot = spots.find((one) => one.peakC === peakC);
  const room =
    hottest.stated.roomC === null
      ? 'a room that nobody noted'
      : `a room of ${sayTemperature(hottest.stated.roomC, unit)}`;
  return `The hottest that was read is ${sayTemperature(peakC!, unit)}${spot ? ` at ${spot.spot} (${spot.by})` : ''}, in ${hottest.stated.title ?? hottest.name} on ${hottest.stated.device ?? 'the device'}, in ${room}.`;
}

function drain(runs: readonly ReviewRun[]): string {
  const known = runs
    .filter((run) => run.figures.values.hoursFromFull !== null)
    .sort((a, b) => a.figures.values.hoursFromFull!.value - b.figures.values.hoursFromFull!.value);
  const [shortest] = known;
  const longest = known.at(-1);
  if (!shortest || !longest) return '';
  const say = (run: ReviewRun): string =>
    `${hoursAndMinutes(run.figures.values.hoursFromFull!.value)} in ${run.stated.title ?? run.name} on ${run.stated.device ?? 'the device'}`;
  return shortest === longest
    ? `From full it would last about ${say(shortest)}.`
    : `From full it would last from about ${say(shortest)} to about ${say(longest)}.`;
}

function notRun(runs: readonly ReviewRun[]): string {
  return runs
    .flatMap((run) => {
      const what = `${run.stated.title ?? run.name} on ${run.stated.device ?? 'the device'}`;
      if (run.figures.ended === 'would-not-start') return [`${what} would not start.`];
      return run.figures.ended === 'crash' ? [`${what} crashed after ${clock(run.figures.seconds)}.`] : [];
    })
    .join('\n');
}

function caveats(runs: readonly ReviewRun[]): string {
  return CAVEATS.flatMap((caveat) => {
    const count = runs.filter((run) => run.caveats.includes(caveat)).length;
    return count === 0 ? [] : [`${caveatSentence(caveat).replace(/\.$/, '')} (${count} of ${runs.length}).`];
  }).join('\n');
}
