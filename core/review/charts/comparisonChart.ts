import { byLogarithm } from '../../compare/spread';
import { MEASURE_WORDS } from '../../words/compareWords';
import type { Voice } from '../../words/headline';
import type { ChartedDifference, ReviewComparison } from '../model';
import type { Area, Chart } from './chart';
import { fit, INKS, line, rect, text } from './draw';

const ROW = 3;

/** What differs between two sides: each measure with its interval about no difference. */
export function comparisonChart({ name, pair }: ReviewComparison, index: number, voice: Voice): Chart | null {
  if (pair === null || pair.differences.length === 0) return null;
  const { sides, differences, runs } = pair;
  return {
    file: `comparison-${index + 1}`,
    title: name,
    alt: differences.map((one) => `${MEASURE_WORDS[one.measure]}: ${one.says}, ${one.verdict}.`).join(' '),
    small: `${sides[1]} compared with ${sides[0]}: ratio of the means (rise: difference in °${voice.unit}), with 95 % intervals (Student’s t over the runs; run-to-run variation includes earlier repeats); ${runs[0]} and ${runs[1]} runs. Differences within the grey band are too small to notice.`,
    wants: (_, u) => (differences.length * ROW + 1.6) * u,
    draw: (area) => drawDifferences(differences, sides, area),
  };
}

/** Where a difference is drawn: on the logarithm, the rise by its degrees. */
const place = (measure: ChartedDifference['measure'], value: number): number =>
  byLogarithm(measure) ? Math.log(value) : value / 20;

function drawDifferences(
  rows: readonly ChartedDifference[],
  [first, second]: [string, string],
  { x, y, width, height, u }: Area,
): string {
  const row = Math.min(ROW * u * 1.5, (height - u * 1.6) / rows.length);
  const reach = Math.max(
    0.12,
    ...rows.flatMap(({ measure, by, interval }) =>
      [by, ...(interval[0] === null ? [] : interval)].map((value) => Math.abs(place(measure, value))),
    ),
  );
  const middle = x + width / 2;
  const at = (measure: ChartedDifference['measure'], value: number): number =>
    middle + Math.max(-1, Math.min(1, place(measure, value) / reach)) * (width / 2);
  const margin = (Math.log(1.03) / reach) * (width / 2);
  const top = y + u * 1.5;
  return [
    text(x, y + u * 0.9, fit(`more with ${first}`, width / 2 - u, u * 0.85), {
      size: u * 0.85,
      fill: INKS.quiet,
    }),
    text(x + width, y + u * 0.9, fit(`more with ${second}`, width / 2 - u, u * 0.85), {
      size: u * 0.85,
      fill: INKS.quiet,
      anchor: 'end',
    }),
    ...rows.map((one, i) => {
      const from = top + i * row;
      const bar = from + u * 1.15;
      const tall = Math.min(u * 1.1, row - u * 1.5);
      const [low, high] = one.interval;
      const clear = one.verdict === 'first better' || one.verdict === 'second better';
      return [
        text(x, from + u * 0.8, `${MEASURE_WORDS[one.measure]}`, { size: u * 0.9, family: 'figures' }),
        text(x + width, from + u * 0.8, fit(one.says, width * 0.7, u * 0.86), {
          size: u * 0.86,
          anchor: 'end',
        }),
        rect(x, bar, width, tall, INKS.track),
        rect(middle - margin, bar, 2 * margin, tall, INKS.line),
        low === null
          ? ''
          : rect(
              at(one.measure, low),
              bar + tall * 0.2,
              at(one.measure, high!) - at(one.measure, low),
              tall * 0.6,
              clear ? INKS.pace : INKS.quiet,
            ),
        rect(at(one.measure, one.by) - u * 0.11, bar - u * 0.05, u * 0.22, tall + u * 0.1, INKS.ink),
      ].join('');
    }),
    line(middle, top + u, middle, top + rows.length * row, INKS.ink, u * 0.06),
  ].join('');
}
