import {
  MOST_SITTING_ROWS,
  NEED_WORDS,
  NO_RESULT,
  RATE_SOURCES,
  readResult,
  readSitting,
  RESULT_FIELDS,
  type RateSource,
  type ResultField,
  type ResultRead,
  type ResultTexts,
  type SittingRow,
  type TemperatureUnit,
} from '@pace-check/core';
import type { Asked } from '../../../forms/TargetNeed';

/** A row of the table, with a name of its own. */
export interface TableRow extends SittingRow {
  id: number;
}

/** Several results on one device. */
export interface Table {
  device: string;
  roomC: number | null;
  by: RateSource;
  rows: TableRow[];
}

/** Rows that stand ready. */
const FIRST_ROWS = 3;
export const emptyRow = (id: number): TableRow => ({
  id,
  title: '',
  setup: '',
  target: '',
  need: '',
  texts: NO_RESULT,
});
export const NO_TABLE: Table = {
  device: '',
  roomC: null,
  by: 'overlay',
  rows: Array.from({ length: FIRST_ROWS }, (_, i) => emptyRow(i)),
};

export const isEmpty = ({ title, texts }: SittingRow): boolean =>
  title.trim() === '' && RESULT_FIELDS.every((field) => texts[field].trim() === '');

export const nextId = (rows: TableRow[]): number => Math.max(0, ...rows.map((row) => row.id)) + 1;

const word = (value: unknown): string => (typeof value === 'string' ? value : '');

/** What was kept of a table in the browser; what is no table is none. */
export function readTable(stored: unknown): Table | null {
  const { device, roomC, by, rows } = Object(stored) as Record<keyof Table, unknown>;
  if (!Array.isArray(rows)) return null;
  return {
    device: word(device),
    roomC: typeof roomC === 'number' ? roomC : null,
    by: RATE_SOURCES.find((one) => one === by) ?? 'overlay',
    rows: rows.slice(0, MOST_SITTING_ROWS).map((row: unknown, id): TableRow => {
      const { title, setup, target, need, texts } = Object(row) as Record<keyof TableRow, unknown>;
      const known = Object(texts) as Record<ResultField, unknown>;
      return {
        id,
        title: word(title),
        setup: word(setup),
        target: word(target),
        need: word(need),
        texts: Object.fromEntries(
          RESULT_FIELDS.map((field) => [field, word(known[field])]),
        ) as unknown as ResultTexts,
      };
    }),
  };
}

/** The table with what was pasted, in the place of what is there or behind it. */
export function withPasted(table: Table, text: string, how: 'add' | 'replace'): Table {
  const { rows } = readSitting(text);
  const kept = how === 'replace' ? [] : table.rows.filter((row) => !isEmpty(row));
  const from = nextId(table.rows);
  return {
    ...table,
    rows: [...kept, ...rows.map((row, i) => ({ ...row, id: from + i }))].slice(0, MOST_SITTING_ROWS),
  };
}

/** What a row says: its values, what it is held against, and what is wrong with which cell. */
export interface RowRead {
  entries: ResultRead['entries'];
  asked: Asked;
  problems: Partial<Record<ResultField | 'target' | 'need', string>>;
}

/** What texts say, by unit and source: a row that did not change is not read anew. */
const readBefore = new WeakMap<ResultTexts, Map<string, ResultRead>>();

export function readRow(row: TableRow, unit: TemperatureUnit, by: RateSource): RowRead {
  const known = readBefore.get(row.texts) ?? new Map<string, ResultRead>();
  readBefore.set(row.texts, known);
  const key = `${unit} ${by}`;
  const read = known.get(key) ?? readResult(row.texts, { unit, by, spot: null, ended: null });
  known.set(key, read);
  const problems: RowRead['problems'] = { ...read.problems };
  const target = row.target
    .trim()
    .toLowerCase()
    .replace(/\s*fps$/, '');
  const rate = Number(target.replace(',', '.'));
  if (target !== '' && target !== 'none' && !(rate > 0 && rate <= MOST_TARGET))
    problems.target = `Enter frames per second up to ${MOST_TARGET}, or none.`;
  const need = row.need.trim().toLowerCase();
  const asksFor = NEED_WORDS.find((one) => one === need);
  if (need !== '' && need !== 'none' && !asksFor) problems.need = `Use one of: ${NEED_WORDS.join(', ')}.`;
  return {
    entries: read.entries,
    asked: {
      target: target === '' || problems.target ? null : target === 'none' ? 'none' : rate,
      need: need === 'none' ? 'none' : (asksFor ?? null),
    },
    problems,
  };
}
/** Frames per second. */
const MOST_TARGET = 1000;
