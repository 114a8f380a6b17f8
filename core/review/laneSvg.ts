import { warmthBand } from '../figures/touch';
import type { Lane } from '../figures/lane';
import { clock } from '../words/headline';
import { INKS, rect, round } from './charts/draw';
import { escapeXml } from './escape';

/** Heights of battery, ticks and warmth in a lane of {@link USUAL} px; in a higher one they grow with it. */
const USUAL = 60;
const PARTS = { edge: 7, ticks: 9, strip: 5 };

/**
 * A run's lane as an SVG picture of its own, without letters: what it shows stands in its description.
 *
 * @param scaleS seconds that the full width stands for, so that lanes stack
 * @param says what run it is
 * @param id by which its hatching is known: another one for each picture of a page
 * @source docs/method.md, "Lane"
 */
export const laneSvg = (
  lane: Lane,
  { says, ...drawn }: { width: number; height: number; scaleS: number; says: string; id?: string },
): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${drawn.width} ${drawn.height}" width="${drawn.width}" height="${drawn.height}" role="img"><title>${escapeXml(says)}</title><desc>${escapeXml(describe(lane))}</desc>${laneParts(lane, drawn)}</svg>`;

/** What a lane’s picture is made of, from 0 on. */
export function laneParts(
  lane: Lane,
  { width, height, scaleS, id = 'hatch' }: { width: number; height: number; scaleS: number; id?: string },
): string {
  const grown = Math.max(1, height / USUAL);
  const [edge, ticks, strip] = [PARTS.edge * grown, PARTS.ticks * grown, PARTS.strip * grown];
  const x = (seconds: number): number => round((seconds / Math.max(1, scaleS)) * width);
  const top = edge + 2;
  const bar = height - edge - 2 - ticks - strip - 2;
  const parts = lane.cells.flatMap((cell, i) => {
    const left = x(cell.fromS);
    const wide = Math.max(1, round(x(cell.toS) - left - 1.5 * grown));
    const tall = cell.height === null ? 0 : round(Math.max(1.5, Math.min(1, cell.height) * bar));
    const fill = lane.readOff ? `url(#${id})` : INKS.pace;
    const percent = cell.percentAtEnd;
    const before = lane.cells[i - 1]?.percentAtEnd ?? percent;
    const thick = (value: number): number => round(0.8 + (value / 100) * (edge - 0.8));
    const band = cell.hottestC === null ? null : warmthBand(cell.hottestC);
    return [
      rect(left, top, wide, bar, INKS.track),
      rect(left, round(top + bar - tall), wide, tall, fill),
      percent === null || before === null
        ? ''
        : `<path d="M${left} ${edge}H${x(cell.toS)}V${round(edge - thick(percent))}L${left} ${round(edge - thick(before))}Z" fill="${INKS.drain}"/>`,
      band === null
        ? ''
        : rect(
            left,
            round(height - Math.min(strip, (1.5 + band) * grown)),
            wide,
            Math.min(strip, (1.5 + band) * grown),
            INKS.warmth[band]!,
          ),
      ...cell.breaks
        .slice(0, 200)
        .map(({ atS, freeze }) =>
          rect(
            round(x(atS) - (freeze ? 1.5 : 0.6) * grown),
            round(top + bar + 1 - (freeze ? bar / 3 : 0)),
            (freeze ? 3 : 1.2) * grown,
            round(ticks - 3 + (freeze ? bar / 3 : 0)),
            freeze ? INKS.action : INKS.ink,
          ),
        ),
    ];
  });
  const hatch = lane.readOff
    ? `<defs><pattern id="${id}" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)"><path d="M0 0V6" stroke="${INKS.pace}" stroke-width="3"/></pattern></defs>`
    : '';
  return `${hatch}${parts.join('')}`;
}

const MEASURES: Record<Lane['measures'], string> = {
  target: 'of the target',
  hold: 'of the seconds near the median',
  highest: 'of the highest rate that was read',
  speed: 'of full speed',
};

/** The lane in words, for those who do not see it. */
function describe({ cells, measures, readOff }: Lane): string {
  if (cells.length === 0) return 'No splits.';
  return cells
    .map(
      (cell) =>
        `${clock(cell.fromS)}: ${cell.height === null ? 'not known' : `${Math.round(cell.height * 100)} % ${MEASURES[measures]}`}`,
    )
    .join('; ')
    .concat(readOff ? '; read off.' : '.');
}
