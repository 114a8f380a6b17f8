import { warmthBand } from '../figures/touch';
import type { Lane } from '../figures/lane';
import { clock } from '../words/headline';
import { escapeXml } from './escape';

/** Colours of a picture that goes out: those of the app by day, which keep their contrast on paper. */
const COLORS = {
  track: '#d9dfe3',
  pace: '#1f6685',
  ink: '#182025',
  action: '#a8430f',
  drain: '#6b4aa0',
  warmth: ['#7d898f', '#8e7a70', '#a0654c', '#9c3f26', '#6f1d10'],
} as const;

const EDGE = 7;
const TICKS = 9;
const STRIP = 5;

/**
 * A run's lane as an SVG picture of its own, without letters: what it shows stands in its description.
 *
 * @param scaleS seconds that the full width stands for, so that lanes stack
 * @param says what run it is
 * @param id by which its hatching is known: another one for each picture of a page
 * @source docs/method.md, "Lane"
 */
export function laneSvg(
  lane: Lane,
  {
    width,
    height,
    scaleS,
    says,
    id = 'hatch',
  }: { width: number; height: number; scaleS: number; says: string; id?: string },
): string {
  const x = (seconds: number): number => round((seconds / Math.max(1, scaleS)) * width);
  const top = EDGE + 2;
  const bar = height - EDGE - 2 - TICKS - STRIP - 2;
  const parts = lane.cells.flatMap((cell, i) => {
    const left = x(cell.fromS);
    const wide = Math.max(1, round(x(cell.toS) - left - 1.5));
    const tall = cell.height === null ? 0 : round(Math.max(1.5, Math.min(1, cell.height) * bar));
    const fill = lane.readOff ? `url(#${id})` : COLORS.pace;
    const percent = cell.percentAtEnd;
    const before = lane.cells[i - 1]?.percentAtEnd ?? percent;
    const thick = (value: number): number => round(0.8 + (value / 100) * (EDGE - 0.8));
    const band = cell.hottestC === null ? null : warmthBand(cell.hottestC);
    return [
      rect(left, top, wide, bar, COLORS.track),
      rect(left, round(top + bar - tall), wide, tall, fill),
      percent === null || before === null
        ? ''
        : `<path d="M${left} ${EDGE}H${x(cell.toS)}V${round(EDGE - thick(percent))}L${left} ${round(EDGE - thick(before))}Z" fill="${COLORS.drain}"/>`,
      band === null
        ? ''
        : rect(
            left,
            round(height - Math.min(STRIP, 1.5 + band)),
            wide,
            Math.min(STRIP, 1.5 + band),
            COLORS.warmth[band]!,
          ),
      ...cell.breaks
        .slice(0, 200)
        .map(({ atS, freeze }) =>
          rect(
            round(x(atS) - (freeze ? 1.5 : 0.6)),
            round(top + bar + 1 - (freeze ? bar / 3 : 0)),
            freeze ? 3 : 1.2,
            round(TICKS - 3 + (freeze ? bar / 3 : 0)),
            freeze ? COLORS.action : COLORS.ink,
          ),
        ),
    ];
  });
  const hatch = lane.readOff
    ? `<defs><pattern id="${id}" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)"><path d="M0 0V6" stroke="${COLORS.pace}" stroke-width="3"/></pattern></defs>`
    : '';
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}" width="${width}" height="${height}" role="img"><title>${escapeXml(says)}</title><desc>${escapeXml(describe(lane))}</desc>${hatch}${parts.join('')}</svg>`;
}

const rect = (x: number, y: number, width: number, height: number, fill: string): string =>
  `<rect x="${x}" y="${y}" width="${width}" height="${height}" fill="${fill}"/>`;
/** Two decimals: what a picture shows. */
const round = (value: number): number => Math.round(value * 100) / 100;

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
