import { WARMTH_BANDS } from '../figures/touch';
import { SUSTAINED_S } from '../figures/splits';
import { METHOD_VERSION } from '../figures/methodVersion';
import { clock, sayTemperature, type Voice } from '../words/headline';
import { pageHtml, type WrittenReview } from './page';
import { escapeXml } from './escape';

interface Definition {
  term: string;
  says: string;
}

/**
 * The definitions of all figures that a review holds, and of no others.
 *
 * @source docs/method.md, from which each is taken
 */
export function definitionsOf(review: WrittenReview, voice: Voice): Definition[] {
  const { runs } = review;
  const some = (has: (run: (typeof runs)[number]) => boolean): boolean => runs.some(has);
  const value = (measure: keyof (typeof runs)[number]['figures']['values']): boolean =>
    some((run) => run.figures.values[measure] !== null);
  const all: [boolean, string, string][] = [
    [
      value('average'),
      'Average pace',
      'Number of frames over the sum of their times, in frames per second; never a mean of instantaneous rates.',
    ],
    [
      value('median'),
      'Median pace',
      'Median over whole seconds of the frames in each, counted by their share in it.',
    ],
    [
      some((run) => run.figures.hold !== null),
      'Hold',
      'Share of the seconds whose pace lies within a fifth of the median.',
    ],
    [
      value('onePercentLow'),
      '1 % low',
      'One over the 99 % quantile (type 7 of Hyndman and Fan) of the frame times. Too few frames: none.',
    ],
    [
      some((run) => run.figures.source === 'read' || run.figures.source === 'eye'),
      'Read off',
      'Without a log, a value is what was read off a screen, as wide as half a unit of its last digit, or as the range that was written; by eye ± a fifth, at least 5 fps. Means of such values are means of their ends.',
    ],
    [
      value('closing'),
      'Closing pace and stamina',
      `Opening: mean of the first 120 usable seconds from 0:30 on. Closing: mean of the last 300 seconds. Only runs of ${clock(SUSTAINED_S)} or more have them. Their ratio: holds from 95 %, eases from 85 %, fades from 65 %, buckles below. DNF: ended by a crash; DNS: would not start.`,
    ],
    [
      some((run) => run.figures.breaks !== null),
      'Breaks',
      'A frame of 2.5 times its local median and 40 ms or more: a stutter below 250 ms, a stall below 1 s, a freeze from there. No average hides a freeze.',
    ],
    [
      some((run) => run.figures.playable !== null),
      'Playable',
      'By the title’s need: reaction 57 fps and a 1 % low of 45, action 45 and 30, story 29 and 22, boards and maps 24 and 15, unless the reviewer set others; freezes and stalls count against it. Common practice.',
    ],
    [
      some((run) => run.figures.spots.length > 0),
      'Warmth',
      `Readings of the skin at named spots, never of two instruments in one series. ${WARMTH_BANDS.slice(1)
        .map(({ fromC, word }) => `${word} from ${sayTemperature(fromC, voice.unit)}`)
        .join(', ')}; cool below.`,
    ],
    [
      value('peakRise'),
      'Rise over the room',
      'Highest reading less the room’s temperature, of the spot that rises most.',
    ],
    [
      value('hoursFromFull'),
      'Hours from full',
      '100 % over the slope of the battery’s percent while it discharged, from the moments at which each new percent was first seen; charging left out.',
    ],
    [value('watts'), 'Power', 'Energy of the battery times its slope, or of a meter where one was read.'],
    [
      review.comparisons.some((one) => one.pair !== null),
      'Comparisons',
      'Ratio of geometric means with a 95 % interval by Student’s t; the spread between runs is moderated by earlier repeats (Smyth 2004). “The same in practice”: the whole interval within 3 % (two one-sided tests, Schuirmann 1987).',
    ],
    [
      some((run) => run.caveats.length > 0),
      'Confidence',
      'A, B, C or D by the caveats of a run: each weighs one or two points.',
    ],
  ];
  return all.flatMap(([used, term, says]) => (used ? [{ term, says }] : []));
}

/** The definitions as a page of their own. */
export function methodsHtml(review: WrittenReview, voice: Voice, fonts = ''): string {
  const title = `How the figures are made: ${review.name}`;
  return pageHtml(
    title,
    `<h1>How the figures are made</h1><p class="quiet">${escapeXml(`For “${review.name}”, method ${METHOD_VERSION}. Times are on each run’s clock; menus, loading, advertisements and pauses are left out.`)}</p><dl>${definitionsOf(
      review,
      voice,
    )
      .map(({ term, says }) => `<dt>${escapeXml(term)}</dt><dd>${escapeXml(says)}</dd>`)
      .join('')}</dl>`,
    fonts,
  );
}
