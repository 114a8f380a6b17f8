import { warmthBand } from '../figures/touch';
import type { Lane, LaneCell } from '../figures/lane';
import { clock } from '../words/headline';
import { INKS, line, rect, round, text, textWidth } from './charts/draw';
import { escapeXml } from './escape';

/** Heights of battery, ticks and warmth in a lane of {@link USUAL} px; in a higher one they grow with it. */
const USUAL = 60;
const PARTS = { edge: 7, ticks: 9, strip: 5 };
/** Width of a run whose length nobody noted, and height of the letters of its end, px. */
const UNTIMED = 44;
const MARK = 15;

/**
 * A run's lane as an SVG picture of its own: what it shows stands in its description as well.
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
    // a run of unknown length is drawn as a block of its own
    const wide =
      cell.toS === cell.fromS
        ? Math.min(width, UNTIMED * grown)
        : Math.max(1, round(x(cell.toS) - left - 1.5 * grown));
    const tall = cell.height === null ? 0 : round(Math.max(1.5, Math.min(1, cell.height) * bar));
    const fill = lane.readOff ? `url(#${id})` : INKS.pace;
    const percent = cell.percentAtEnd;
    const before = lane.cells[i - 1]?.percentAtEnd ?? percent;
    const thick = (value: number): number => round(0.8 + (value / 100) * (edge - 0.8));
    const band = cell.hottestC === null ? null : warmthBand(cell.hottestC);
    return [
      rect(left, top, wide, bar, INKS.track),
      rect(left, round(top + bar - tall), wide, tall, fill),
      readEnds(cell, { middle: left + wide / 2, bottom: top + bar, bar, grown }),
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
  const mark =
    lane.end === 'crash'
      ? endMark('DNF', x(lane.seconds), { width, y: top + bar / 2, grown })
      : lane.end === 'would-not-start'
        ? endMark('DNS', 0, { width, y: top + bar / 2, grown })
        : '';
  return `${hatch}${parts.join('')}${mark}`;
}

/** From the lower to the upper end of what was read off. */
function readEnds(
  { ends }: LaneCell,
  { middle, bottom, bar, grown }: { middle: number; bottom: number; bar: number; grown: number },
): string {
  if (ends === null) return '';
  const at = (height: number): number => bottom - Math.min(1, height) * bar;
  return line(middle, at(ends.low), middle, Math.min(at(ends.high), at(ends.low) - 2), INKS.ink, 2 * grown);
}

/** How a run ended before its time, behind its last cell; before its end, on a sheet, where there is no room behind. */
function endMark(
  says: string,
  atX: number,
  { width, y, grown }: { width: number; y: number; grown: number },
): string {
  const size = MARK * grown;
  const wide = textWidth(says, size) + size / 2;
  const left = width - atX >= wide ? atX : Math.max(0, atX - wide);
  return [
    rect(left, round(y - size * 0.7), wide, round(size * 1.4), INKS.sheet),
    line(atX, y - size * 0.7, atX, y + size * 0.7, INKS.action, 2 * grown),
    text(left + size / 4, y + size * 0.36, says, { size, family: 'figures', fill: INKS.action }),
  ].join('');
}

const MEASURES: Record<Lane['measures'], string> = {
  target: 'of the target',
  hold: 'of the seconds near the median',
  highest: 'of the highest reading',
  speed: 'of full speed',
};

/** The lane in words, for those who do not see it. */
function describe({ cells, measures, readOff, end }: Lane): string {
  const ended = end === 'crash' ? ' It crashed.' : end === 'would-not-start' ? ' It would not start.' : '';
  if (cells.length === 0) return `No splits yet.${ended}`;
  return cells
    .map(
      (cell) =>
        `${clock(cell.fromS)}: ${cell.height === null ? 'not known' : `${Math.round(cell.height * 100)} % ${MEASURES[measures]}`}`,
    )
    .join('; ')
    .concat(readOff ? '; manual readings.' : '.', ended);
}
