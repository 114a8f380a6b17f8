import {
  EARLIER_FACTS,
  KIT_KINDS,
  newRecord,
  type KitImported,
  type KitKind,
  type NewRecord,
} from '@pace-check/contract';
import Papa from 'papaparse';
import type pg from 'pg';
import * as z from 'zod';
import { inTransaction } from '../sql/database';
import { readKit } from '../sql/kit';
import { mergeRecord } from './kit';
import { Problem } from './problem';
import { checkDerived } from './setups';
import { fromCells, toCells } from './kitCells';

/** The kit as files: all of it as JSON, or one kind a table as CSV. docs/formats.md describes both. */
const LISTS: Record<KitKind, string> = {
  device: 'devices',
  accessory: 'accessories',
  instrument: 'instruments',
  title: 'titles',
  setup: 'setups',
};
const FORMAT = 'pace-kit';

export async function exportJson(pool: pg.Pool): Promise<string> {
  const kit = await readKit(pool);
  const lists = Object.fromEntries(KIT_KINDS.map((kind) => [LISTS[kind], plainRecords(kit, kind)]));
  return `${JSON.stringify({ format: FORMAT, version: 1, ...lists }, null, 2)}\n`;
}

export async function exportCsv(pool: pg.Pool, kind: KitKind): Promise<string> {
  const rows = plainRecords(await readKit(pool), kind).map((record) => ({
    record: kind,
    ...toCells(record),
  }));
  const columns = [...new Set(['record', 'name', ...rows.flatMap((row) => Object.keys(row))])];
  return `${Papa.unparse(rows, { columns, newline: '\n' })}\n`;
}

/** Records as files have them: name and facts side by side. */
function plainRecords(kit: Awaited<ReturnType<typeof readKit>>, kind: KitKind): Record<string, unknown>[] {
  switch (kind) {
    case 'device':
      return kit.devices.map(({ name, facts, spots }) => ({
        name,
        ...facts,
        ...(spots.length > 0 ? { spots } : {}),
      }));
    case 'accessory':
      return kit.accessories.map(({ name, facts }) => ({ name, ...facts }));
    case 'instrument':
      return kit.instruments.map(({ name, facts }) => ({ name, ...facts }));
    case 'title':
      return kit.titles.map(({ name, facts }) => ({ name, ...facts }));
    case 'setup':
      return kit.setups.map(({ name, titleId, facts }) => ({
        name,
        title: kit.titles.find((title) => title.id === titleId)!.name,
        ...facts,
      }));
  }
}

interface Read {
  kind: KitKind;
  record: NewRecord;
  cleared: string[];
}

/**
 * Brings a file of the kit in, all of it or nothing. What is there already is
 * brought up to date, never doubled.
 *
 * @throws Problem 422 that names the place
 */
export async function importKit(pool: pg.Pool, text: string): Promise<KitImported> {
  const plain = text.replace(/^\uFEFF/, '');
  const read = /^\s*[{[]/.test(plain) ? readJson(plain) : readCsv(plain);
  return inTransaction(pool, async (db) => {
    const counts: KitImported = { added: 0, updated: 0, unchanged: 0 };
    // titles before their setups, whatever the file's order
    for (const kind of KIT_KINDS)
      for (const { record, cleared } of read.filter((one) => one.kind === kind))
        counts[(await mergeRecord(db, kind, record, cleared)).was]++;
    // a setup may stand before the one that it is derived from
    const { titles } = await readKit(db);
    const named = new Set(
      read.flatMap(({ record }) => ('title' in record ? record.title.toLowerCase() : [])),
    );
    for (const title of titles) if (named.has(title.name.toLowerCase())) await checkDerived(db, title.id);
    return counts;
  });
}

function refuse(message: string, remedy: string, place?: { line?: number; field?: string }): never {
  throw new Problem(422, { code: 'kit-file', message, remedy, ...place });
}

function readJson(text: string): Read[] {
  let file: unknown;
  try {
    file = JSON.parse(text);
  } catch (error) {
    refuse(
      `The file is not valid JSON (${error instanceof Error ? error.message : String(error)}).`,
      'Export it again, or correct it at the place named above.',
    );
  }
  const whole = z.looseObject({ format: z.literal(FORMAT), version: z.literal(1) }).safeParse(file);
  if (!whole.success)
    refuse(
      `The file is not a kit file. It must start with "format": "${FORMAT}", "version": 1.`,
      'See docs/formats.md for an example.',
    );
  const unknown = Object.keys(whole.data).find(
    (key) => !['format', 'version', ...Object.values(LISTS)].includes(key),
  );
  if (unknown)
    refuse(`Unknown list “${unknown}” in the file.`, `Possible lists: ${Object.values(LISTS).join(', ')}.`, {
      field: unknown,
    });
  return KIT_KINDS.flatMap((kind) => {
    const list = whole.data[LISTS[kind]] ?? [];
    if (!Array.isArray(list))
      refuse(`“${LISTS[kind]}” is not a list.`, 'See docs/formats.md for an example.', {
        field: LISTS[kind],
      });
    return list.map((one: unknown, i) => toRead(kind, one, `${LISTS[kind]}[${i}]`));
  });
}

function readCsv(text: string): Read[] {
  const { data, meta } = Papa.parse<Record<string, string>>(text, { header: true, skipEmptyLines: 'greedy' });
  if (!meta.fields?.includes('record') || !meta.fields.includes('name'))
    refuse(
      'The table has no column “record” or “name”.',
      'The first line must have the column names; see docs/formats.md.',
      { line: 1 },
    );
  return data.map((row, i) => {
    const line = i + 2;
    const kind = KIT_KINDS.find((known) => known === row['record']?.trim());
    if (!kind)
      refuse(
        `Line ${line}: “${row['record'] ?? ''}” is not a record type.`,
        `Use one of ${KIT_KINDS.join(', ')}.`,
        { line, field: 'record' },
      );
    const { record: _record, ...cells } = row;
    return toRead(kind, fromCells(cells, fileRecord(kind)), `line ${line}`, line);
  });
}

/** A record as files have it: the facts stand beside the name. */
export function fileRecord(kind: KitKind): z.ZodObject {
  const { facts, ...own } = newRecord[kind].shape as Record<string, z.ZodType> & {
    facts: z.ZodDefault<z.ZodObject>;
  };
  return z.strictObject({ ...own, ...facts.unwrap().shape });
}

/** A setup as an earlier version wrote it: what is set stood beside the name. */
function asPairs(given: Record<string, unknown>): Record<string, unknown> {
  const earlier = Object.keys(given).filter((key) => Object.hasOwn(EARLIER_FACTS, key));
  if (earlier.length === 0) return given;
  const rest = Object.entries(given).filter(([key]) => !earlier.includes(key));
  const pairs = earlier.map((key) => ({ ...EARLIER_FACTS[key], value: String(given[key]) }));
  return Object.fromEntries([...rest, ['pairs', pairs]]);
}

function toRead(kind: KitKind, value: unknown, place: string, line?: number): Read {
  if (typeof value !== 'object' || value === null)
    refuse(`${place} is not a record.`, 'A record needs a name and facts.', { line });
  // null says that a fact is known no longer
  const cleared = Object.entries(value).flatMap(([field, fact]) => (fact === null ? field : []));
  const stated = Object.fromEntries(Object.entries(value).filter(([, fact]) => fact !== null));
  const given = kind === 'setup' ? asPairs(stated) : stated;
  const result = fileRecord(kind).safeParse(given);
  if (!result.success) {
    const issue = result.error.issues[0]!;
    const field = issue.code === 'unrecognized_keys' ? issue.keys[0]! : issue.path.join('.');
    const what =
      issue.code === 'unrecognized_keys' ? `a ${kind} has no “${field}”` : `${field}: ${issue.message}`;
    refuse(
      `${place[0]!.toUpperCase()}${place.slice(1)} (${String(given['name'] ?? 'without a name')}): ${what}.`,
      'Nothing was stored. Correct the file and import it again.',
      { line, field },
    );
  }
  const { name, title, spots, ...facts } = result.data as Record<string, unknown>;
  const record = {
    name,
    facts,
    ...(title === undefined ? {} : { title }),
    ...(spots === undefined ? {} : { spots }),
  } as unknown as NewRecord;
  return { kind, record, cleared };
}
