import type { Ends } from '../../readOff/ends';
import { hatching, type Area } from './chart';
import { fit, INKS, line, rect, text, textWidth } from './draw';

/** A row of bars: what it is of, how long, and how it is said. */
export interface BarRow {
  /** Stands over the rows that follow, where it is another than before. */
  group: string;
  label: string;
  /** Null: nothing to draw but its ends, only to say. */
  value: number | null;
  /** Ends of a value that was read off. */
  ends: Ends | null;
  /** A mark on the bar, such as the 1 % low. */
  mark: number | null;
  says: string;
}

/** Heights of a heading and of a row, in sizes of the text. */
const HEADING = 1.9;
const ROW = 2.35;
/** From this width on there is room for two columns, in sizes of the text. */
const COLUMN = 44;

/** Rows of a column with their headings: what fits, and what is left over. */
function columnsOf(rows: readonly BarRow[], area: Area): { columns: BarRow[][]; left: number } {
  const count = barsHeight(rows, area.u) > area.height && hasTwoColumns(area.width, area.u) ? 2 : 1;
  const columns: BarRow[][] = [];
  let next = 0;
  for (let column = 0; column < count; column++) {
    const taken: BarRow[] = [];
    let height = 0;
    const fair = Math.ceil((rows.length - next) / (count - column));
    while (next < rows.length) {
      const row = rows[next]!;
      const more = ROW + (taken.at(-1)?.group === row.group ? 0 : HEADING);
      if ((height + more) * area.u > area.height) break;
      // a group stays together where it can
      if (taken.length >= fair && taken.at(-1)!.group !== row.group) break;
      taken.push(row);
      height += more;
      next++;
    }
    columns.push(taken);
  }
  return { columns, left: rows.length - next };
}

const hasTwoColumns = (width: number, u: number): boolean => width > COLUMN * u;

/** Height that the rows take in one column, px. */
const barsHeight = (rows: readonly BarRow[], u: number): number =>
  rows.reduce((sum, row, i) => sum + (ROW + (rows[i - 1]?.group === row.group ? 0 : HEADING)) * u, u * 0.2);

/** Height that a picture of the rows would like, px; with room for two columns a little more than half. */
export const barsWant = (rows: readonly BarRow[], width: number, u: number): number =>
  barsHeight(rows, u) * (hasTwoColumns(width, u) && rows.length > 4 ? 0.5 : 1) +
  (hasTwoColumns(width, u) ? 4.5 : 1.4) * u;

/**
 * Horizontal bars in groups, with their values said at their ends; a value
 * that was read off is hatched, and its ends are drawn. Where not all fit, it is said how many are missing.
 *
 * @param id by which the hatching is known
 * @param whole what a full bar stands for; null for the longest
 */
export function drawBars(
  rows: readonly BarRow[],
  color: string,
  id: string,
  area: Area,
  whole: number | null = null,
): string {
  const { u } = area;
  const { columns, left } = columnsOf(rows, { ...area, height: area.height - u * 1.2 });
  const most =
    whole ??
    Math.max(1e-9, ...rows.map((row) => Math.max(row.value ?? 0, row.ends?.high ?? row.ends?.low ?? 0)));
  const gap = u * 1.6;
  const width = (area.width - gap * (columns.length - 1)) / columns.length;
  const parts = [hatching(id, color, u)];
  columns.forEach((column, c) => {
    const x = area.x + c * (width + gap);
    let y = area.y;
    column.forEach((row, i) => {
      if (column[i - 1]?.group !== row.group) {
        parts.push(
          text(x, y + u * 1.35, fit(row.group, width, u * 1.1), { size: u * 1.1, family: 'figures' }),
        );
        y += HEADING * u;
      }
      const said = fit(row.says, width * 0.62, u);
      const room = width - textWidth(said, u) - u;
      parts.push(
        text(x, y + u * 0.85, fit(row.label, room, u * 0.86), { size: u * 0.86, fill: INKS.quiet }),
        text(x + width, y + u * 0.9, said, { size: u, family: 'figures', anchor: 'end' }),
      );
      const top = y + u * 1.15;
      const tall = u * 0.75;
      const at = (value: number): number => (Math.min(value, most) / most) * width;
      parts.push(rect(x, top, width, tall, INKS.track));
      if (row.value !== null) parts.push(rect(x, top, at(row.value), tall, row.ends ? `url(#${id})` : color));
      // what was read is as long as it was wide, and begins where it does
      if (row.value === null && row.ends)
        parts.push(
          rect(
            x + at(row.ends.low),
            top,
            Math.max(u * 0.3, at(row.ends.high ?? most) - at(row.ends.low)),
            tall,
            `url(#${id})`,
          ),
        );
      else if (row.ends)
        parts.push(
          line(
            x + at(row.ends.low ?? 0),
            top + tall / 2,
            x + at(row.ends.high ?? most),
            top + tall / 2,
            INKS.ink,
            u * 0.1,
          ),
        );
      if (row.mark !== null)
        parts.push(rect(x + at(row.mark) - u * 0.09, top - u * 0.12, u * 0.18, tall + u * 0.24, INKS.ink));
      y += ROW * u;
    });
  });
  if (left > 0)
    parts.push(
      text(area.x, area.y + area.height - u * 0.2, `and ${left} more in the table`, {
        size: u * 0.86,
        fill: INKS.quiet,
      }),
    );
  return parts.join('');
}
