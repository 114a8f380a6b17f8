import { onOneScale, type Lane } from '../../figures/lane';
import { clock, type Voice } from '../../words/headline';
import { laneParts } from '../laneSvg';
import type { ReviewRun } from '../model';
import { smallPrint } from '../smallPrint';
import type { Chart } from './chart';
import { fit, INKS, text } from './draw';

/** So many of either end are shown where there are more. */
const OF_EACH = 3;
/** Lanes of one picture at most. */
export const MOST_LANES = 2 * OF_EACH;
const ROW = 5.2;

/** Runs that held best and worst as lanes on one clock; all of them where they are few. */
export function lanesChart(runs: readonly ReviewRun[], voice: Voice): Chart | null {
  const ranked = runs
    .flatMap((run) => {
      const share = shareOf(run.lane);
      return share === null ? [] : [{ run, share }];
    })
    .sort((a, b) => b.share - a.share)
    .map(({ run }) => run);
  if (ranked.length === 0) return null;
  const all = ranked.length <= MOST_LANES;
  const picked = all ? ranked : [...ranked.slice(0, OF_EACH), ...ranked.slice(-OF_EACH)];
  const lanes = onOneScale(picked.map(({ lane, stated }) => ({ lane, title: stated.title ?? '' })));
  const shown = picked.map((run, i) => ({ ...run, lane: lanes[i]!.lane }));
  const scaleS = shown.reduce((longest, run) => Math.max(longest, run.lane.seconds), 60);
  return {
    file: 'lanes',
    title: all ? 'All lanes, best first' : `The best ${OF_EACH} lanes and the worst ${OF_EACH}`,
    alt: shown.map((run) => `${run.name}: ${sayOf(run)}.`).join(' '),
    small: `Each cell is a split; its height is the share of time on target (without a target: share of seconds near the median). Ticks are breaks, the line below is warmth, the upper edge is the battery. ${smallPrint(shown, voice, 'conditions')}`,
    wants: (_, u) => shown.length * ROW * u,
    draw: ({ x, y, width, height, u }) => {
      const row = Math.min(ROW * u * 1.3, height / shown.length);
      return shown
        .map((run, i) => {
          const top = y + i * row;
          const says = sayOf(run);
          return [
            text(
              x,
              top + u * 1.1,
              fit([run.name, run.stated.setup].filter(Boolean).join(' · '), width * 0.72, u),
              { size: u, family: 'figures' },
            ),
            text(x + width, top + u * 1.1, says, { size: u * 0.9, fill: INKS.quiet, anchor: 'end' }),
            `<g transform="translate(${x} ${Math.round(top + u * 1.5)})">${laneParts(run.lane, {
              width,
              height: row - u * 2,
              scaleS,
              id: `read-lanes-${i}`,
            })}</g>`,
          ].join('');
        })
        .join('');
    },
  };
}

const sayOf = ({ figures, lane }: ReviewRun): string =>
  [figures.ended === 'crash' ? 'DNF' : figures.word, clock(lane.seconds)].filter(Boolean).join(', ');

/** Mean height of the cells by their time; null where none is known. */
function shareOf({ cells }: Lane): number | null {
  let [sum, seconds] = [0, 0];
  for (const { height, fromS, toS } of cells)
    if (height !== null) {
      sum += Math.min(1, height) * (toS - fromS);
      seconds += toS - fromS;
    }
  return seconds === 0 ? null : sum / seconds;
}
