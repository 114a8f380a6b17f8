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
      'Number of frames divided by the sum of their times, in frames per second; not the mean of single rates.',
    ],
    [
      value('median'),
      'Median over whole seconds; each second counts its frames in proportion.',
      'Median over whole seconds of the frames in each, counted by their share in it.',
    ],
    [some((run) => run.figures.hold !== null), 'Near median', 'Share of seconds within 20 % of the median.'],
    [
      value('onePercentLow'),
      '1 % low',
      '1 divided by the 99 % quantile (type 7 of Hyndman and Fan) of the frame times. Not given if there are too few frames.',
    ],
    [
      some((run) => run.figures.source === 'read' || run.figures.source === 'eye'),
      'Read from',
      'Without a log, a value is read from a screen: uncertain by half its last digit, or a range as entered; by eye ± 20 %, at least 5 fps. Means are calculated from the limits of the ranges.',
    ],
    [
      value('closing'),
      'Closing pace and stamina',
      `Opening: mean of the first 120 usable seconds from 0:30. Closing: mean of the last 300 seconds. Only for runs of ${clock(SUSTAINED_S)} or more. Closing divided by opening: holds from 95 %, eases from 85 %, fades from 65 %, buckles below. DNF: ended by a crash. DNS: would not start.`,
    ],
    [
      some((run) => run.figures.breaks !== null),
      'Breaks',
      'A frame of at least 40 ms and 2.5 times its local median: stutter below 250 ms, stall below 1 s, freeze from 1 s. Freezes are always listed separately.',
    ],
    [
      some((run) => run.figures.playable !== null),
      'Playability',
      'By title type: reaction 57 fps and 1 % low 45, action 45 and 30, story 29 and 22, slow 24 and 15, unless the reviewer set other thresholds. Freezes and stalls count against it. The values follow common practice.',
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
      'Rise above room temperature',
      'Highest reading minus room temperature, for the spot with the largest rise.',
    ],
    [
      value('hoursFromFull'),
      'Hours from full',
      '100 % divided by the slope of the battery percent while discharging, from the moments when each new percent was first seen; charging excluded.',
    ],
    [value('watts'), 'Power', 'Battery capacity times the slope, or measured with a power meter.'],
    [
      review.comparisons.some((one) => one.pair !== null),
      'Comparisons',
      'Ratio of geometric means with a 95 % interval (Student’s t); run-to-run variation includes earlier repeats (Smyth 2004). “The same in practice”: the whole interval lies within 3 % (two one-sided tests, Schuirmann 1987).',
    ],
    [
      some((run) => run.caveats.length > 0),
      'Confidence',
      'A, B, C or D, by the caveats of a run; each counts one or two points.',
    ],
  ];
  return all.flatMap(([used, term, says]) => (used ? [{ term, says }] : []));
}

/** The definitions as a page of their own. */
export function methodsHtml(review: WrittenReview, voice: Voice, fonts = ''): string {
  const title = `How the figures are calculated: ${review.name}`;
  return pageHtml(
    title,
    `<h1>How the figures are calculated</h1><p class="quiet">${escapeXml(`For “${review.name}”, method version ${METHOD_VERSION}. Times are on each run’s clock; menus, loading, adverts and pauses are excluded.`)}</p><dl>${definitionsOf(
      review,
      voice,
    )
      .map(({ term, says }) => `<dt>${escapeXml(term)}</dt><dd>${escapeXml(says)}</dd>`)
      .join('')}</dl>`,
    fonts,
  );
}
