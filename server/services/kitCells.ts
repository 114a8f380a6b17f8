import * as z from 'zod';

/**
 * Records in the cells of a table: what lies in something is `outer.inner`, the
 * second of a list of things `outer.2.inner`, a list of plain values stands in
 * one cell with bars between.
 */
const BAR = ' | ';

export function toCells(record: Record<string, unknown>, prefix = ''): Record<string, string> {
  const cells: Record<string, string> = {};
  for (const [key, value] of Object.entries(record)) {
    const name = `${prefix}${key}`;
    if (Array.isArray(value)) {
      if (value.every((one) => typeof one !== 'object')) cells[name] = harmless(value.join(BAR));
      else
        value.forEach((one, i) =>
          Object.assign(cells, toCells(one as Record<string, unknown>, `${name}.${i + 1}.`)),
        );
    } else if (typeof value === 'boolean') cells[name] = value ? 'yes' : 'no';
    else if (value !== undefined && value !== null)
      cells[name] = typeof value === 'string' ? harmless(value) : String(value);
  }
  return cells;
}

/** A spreadsheet takes text that begins like this for a formula, and runs it. */
const FORMULA = /^'*[=+\-@\t\r]/;
const harmless = (text: string): string => (FORMULA.test(text) ? `'${text}` : text);
/** The text as it was before it was made harmless. */
const asWritten = (cell: string): string =>
  cell.startsWith("'") && FORMULA.test(cell.slice(1)) ? cell.slice(1) : cell;

/** The record that stands in a row's cells. Empty cells say nothing; what does not fit is left for the schema to refuse. */
export function fromCells(cells: Record<string, string>, schema: z.ZodObject): Record<string, unknown> {
  const record: Record<string, unknown> = {};
  for (const [column, cell] of Object.entries(cells)) {
    const text = typeof cell === 'string' ? asWritten(cell.trim()) : '';
    if (text !== '') put(record, column.trim().split('.'), text, schema);
  }
  return record;
}

function put(record: Record<string, unknown>, path: string[], text: string, schema: z.ZodObject): void {
  const [key, ...rest] = path as [string, ...string[]];
  const field = bare(schema.shape[key] as z.ZodType | undefined);
  if (rest.length === 0) {
    record[key] = valueOf(text, field);
    return;
  }
  const item = field instanceof z.ZodArray ? bare(field.element as z.ZodType) : undefined;
  const place = Number(rest[0]) - 1;
  if (!(item instanceof z.ZodObject) || !(place >= 0 && place < 100) || rest.length < 2) {
    record[path.join('.')] = text;
    return;
  }
  const list = (record[key] ??= []) as Record<string, unknown>[];
  while (list.length <= place) list.push({});
  put(list[place]!, rest.slice(1), text, item);
}

const bare = (schema: z.ZodType | undefined): z.ZodType | undefined =>
  schema instanceof z.ZodOptional || schema instanceof z.ZodDefault
    ? bare(schema.unwrap() as z.ZodType)
    : schema;

function valueOf(text: string, schema: z.ZodType | undefined): unknown {
  if (schema instanceof z.ZodNumber) return numberOf(text);
  if (schema instanceof z.ZodBoolean)
    return /^(yes|true|1)$/i.test(text) ? true : /^(no|false|0)$/i.test(text) ? false : text;
  if (schema instanceof z.ZodArray)
    return text.split('|').map((part) => valueOf(part.trim(), bare(schema.element as z.ZodType)));
  return text;
}

const numberOf = (text: string): number | string => {
  const number = Number(text.replace(',', '.'));
  return Number.isFinite(number) ? number : text;
};
