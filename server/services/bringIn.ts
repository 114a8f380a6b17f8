import { createHash } from 'node:crypto';
import { createInterface } from 'node:readline';
import { buffer } from 'node:stream/consumers';
import { promisify, isDeepStrictEqual } from 'node:util';
import {
  everythingManifest,
  LARGEST_CHOSEN_BYTES,
  RESTORABLE,
  TRAVELLING_ROWS,
  type Brought,
  type BroughtKind,
  type EverythingManifest,
  type PackProgress,
  type Restorable,
} from '@pace-check/contract';
import { LogRefused, reviewHtml, USUAL_VOICE } from '@pace-check/core';
import type pg from 'pg';
import yauzl, { type Entry } from 'yauzl';
import { toChunks } from '../frames/chunkCodec';
import { allOrNothing, readMigrations, slowClient } from '../sql/backup';
import {
  hasEntry,
  insertPictureRow,
  insertRows,
  insertSources,
  likelyTwins,
  onlyOneBringsIn,
  partAt,
  readSame,
  readSameKeys,
  setJoinedInto,
  TRAVELLING,
  type Row,
  type TravellingTable,
} from '../sql/everything';
import { codeOf } from '../sql/database';
import { insertChunks } from '../sql/frames';
import { wholePublication } from '../sql/reviews';
import { EVERYTHING_VERSION, pictureFile, rowsFile, runFile } from './everything';
import { drawnAnew } from './pictures';
import { Problem } from './problem';
import { runFileOf, WrittenFrames } from './runFiles';

const UUID = /[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}/g;
/** Rows that go to the database at once. */
const PAGE_ROWS = 500;
/** A manifest beyond this is none. */
const LARGEST_MANIFEST = 64 * 1024 * 1024;
/** A record is no longer, bytes. */
const LONGEST_LINE = 128 * 1024 * 1024;
const NEW_LINE = 10;
/** Columns that tell when a record came to a house, not what it says. */
const OF_THE_HOUSE = ['id', 'created_at'];

const SAVE_AGAIN = 'Save everything again where it came from.';

const refuse = (code: string, message: string, remedy: string): never => {
  throw new Problem(422, { code, message, remedy: `Nothing was imported. ${remedy}` });
};

/**
 * Brings everything of another Pace Check into this one, all of it or nothing.
 * A record that is here already, by its id, by its name, or by all that it
 * holds, stays as it is here, and what refers to it refers to the one here.
 *
 * @param path of the zip
 * @throws Problem 422 where it is none, is damaged, or was written by a newer program
 */
export async function bringIn(
  url: string,
  path: string,
  onProgress: (progress: PackProgress) => void,
): Promise<Brought> {
  const archive = await Archive.open(path);
  try {
    const client = await slowClient(url);
    try {
      const { manifest } = archive;
      await onlyOneBringsIn(client, () =>
        onProgress({ done: 0, total: 2 * manifest.files.length, at: 'waiting for another' }),
      );
      const known = await readMigrations(client);
      if (manifest.version > EVERYTHING_VERSION || manifest.migrations.some((file) => !known.includes(file)))
        refuse(
          'newer',
          'The file was written by a newer version of Pace Check.',
          'Update Pace Check on this server first.',
        );
      // checked before anything is begun, and read again then
      const total = 2 * manifest.files.length;
      let done = 0;
      for (const { name } of manifest.files) {
        await archive.check(name);
        onProgress({ done: ++done, total, at: 'checking' });
      }
      const brought = await allOrNothing(client, () =>
        new BringingIn(client, archive, () =>
          onProgress({ done: Math.min(total, ++done), total, at: 'bringing in' }),
        ).all(),
      );
      onProgress({ done: total, total, at: 'done' });
      return brought;
    } finally {
      // what was not committed is undone
      await client.end();
    }
  } finally {
    archive.close();
  }
}

/** A zip of everything, read file by file. */
class Archive {
  private constructor(
    private readonly zip: yauzl.ZipFile,
    private readonly entries: Map<string, Entry>,
    readonly manifest: EverythingManifest,
  ) {}

  static async open(path: string): Promise<Archive> {
    const none = (): never =>
      refuse(
        'no-archive',
        'This file is not a Pace Check export.',
        'Choose the zip written by “Export all data”.',
      );
    const zip = await promisify<string, yauzl.Options, yauzl.ZipFile>(yauzl.open)(path, {
      lazyEntries: true,
      autoClose: false,
    }).catch(none);
    try {
      const entries = new Map<string, Entry>();
      await new Promise<void>((resolve, reject) => {
        zip.on('entry', (entry: Entry) => {
          entries.set(entry.fileName, entry);
          zip.readEntry();
        });
        zip.on('end', resolve);
        zip.on('error', reject);
        zip.readEntry();
      }).catch(none);
      const entry = entries.get('manifest.json');
      if (!entry || entry.uncompressedSize > LARGEST_MANIFEST) return none();
      const text = (await buffer(await stream(zip, entry))).toString();
      const manifest = everythingManifest.safeParse(jsonOf(text));
      if (!manifest.success) return none();
      return new Archive(zip, entries, manifest.data);
    } catch (error) {
      zip.close();
      throw error;
    }
  }

  /** @throws Problem 422 where a file is not there, or not what the manifest says */
  async check(name: string): Promise<void> {
    const told = this.manifest.files.find((file) => file.name === name)!;
    if (name.startsWith('evidence/') && told.bytes > LARGEST_CHOSEN_BYTES)
      refuse('damaged', `The picture “${name}” in it is larger than a picture may be.`, SAVE_AGAIN);
    const hash = createHash('sha256');
    let bytes = 0;
    let line = 0;
    try {
      for await (const read of await this.read(name)) {
        const part = read as Buffer;
        hash.update(part);
        bytes += part.length;
        const end = part.lastIndexOf(NEW_LINE);
        line = end < 0 ? line + part.length : part.length - end;
        // one that goes on beyond what it says, or has no lines, would fill whatever reads it
        if (bytes > told.bytes || (name.endsWith('.ndjson') && line > LONGEST_LINE)) {
          bytes = -1;
          break;
        }
      }
    } catch {
      bytes = -1;
    }
    if (bytes !== told.bytes || hash.digest('hex') !== told.sha256)
      refuse('damaged', `The file “${name}” in the zip is damaged or missing.`, SAVE_AGAIN);
  }

  has(name: string): boolean {
    return this.manifest.files.some((file) => file.name === name);
  }

  /** How large it is, as the zip says. */
  bytesOf(name: string): number {
    return this.entries.get(name)?.uncompressedSize ?? 0;
  }

  read(name: string): Promise<NodeJS.ReadableStream> {
    const entry = this.entries.get(name);
    if (!entry) throw new Error(`no ${name}`);
    return stream(this.zip, entry);
  }

  async *lines(name: string): AsyncGenerator<string> {
    // what the manifest does not name was not checked
    if (!this.has(name)) return;
    for await (const line of createInterface({ input: await this.read(name), crlfDelay: Infinity }))
      if (line !== '') yield line;
  }

  close(): void {
    this.zip.close();
  }
}

const stream = (zip: yauzl.ZipFile, entry: Entry): Promise<NodeJS.ReadableStream> =>
  promisify<Entry, NodeJS.ReadableStream>((one, told) =>
    zip.openReadStream(one, (error, opened) => told(error, opened!)),
  )(entry);

function jsonOf(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}

const isOfRecord = (error: unknown): boolean =>
  /^(2[23]|42)/.test(codeOf(error)) ||
  error instanceof SyntaxError ||
  error instanceof TypeError ||
  error instanceof RangeError ||
  error instanceof LogRefused;

/** One bringing in, within a transaction. */
class BringingIn {
  /** Ids here of records that came under another one. */
  private readonly ids = new Map<string, string>();
  /** Ids of records that were added, by their table. */
  private readonly added = new Map<string, Set<string>>();
  private readonly joined: { id: string; into: string }[] = [];
  private readonly deletedHere: Brought['deletedHere'] = [];
  /** Records that are here, and what they are counted with: something that belongs to them may be missing. */
  private readonly here = new Map<string, BroughtKind>();
  private readonly differing = new Set<string>();

  constructor(
    private readonly db: pg.Client,
    private readonly archive: Archive,
    private readonly onFile: () => void,
  ) {}

  async all(): Promise<Brought> {
    const kinds: BroughtKind[] = [];
    for (const travelling of TRAVELLING) {
      const kind = { what: travelling.what ?? travelling.grows ?? '', added: 0, there: 0, differ: 0 };
      try {
        for await (const rows of this.pages(travelling)) {
          if (travelling.with) await this.children(travelling, rows, kind);
          else await this.records(travelling, rows, kind);
        }
      } catch (error) {
        // what is no record, and what the database refuses of one: its values, columns, or what it refers to
        if (!isOfRecord(error)) throw error;
        refuse(
          'damaged',
          `A record in “${rowsFile(travelling.table)}” cannot be stored: ${(error as Error).message}.`,
          SAVE_AGAIN,
        );
      }
      this.onFile();
      if (kind.what !== '' && kind.added + kind.there > 0) kinds.push(kind);
    }
    await setJoinedInto(
      this.db,
      this.joined.map(({ id, into }) => ({ id, into: this.ids.get(into) ?? into })),
    );
    return { kinds, deletedHere: this.deletedHere };
  }

  /** Rows of a table, checked, some hundreds at a time, with the ids that they have here. */
  private async *pages({ table, without = [] }: TravellingTable): AsyncGenerator<Row[]> {
    let page: Row[] = [];
    let number = 0;
    for await (const line of this.archive.lines(rowsFile(table))) {
      const row = checked(table, ++number, this.asHere(line));
      // what stays behind in one house is not taken from another, older one either
      for (const column of without) delete row[column];
      page.push(row);
      if (page.length === PAGE_ROWS) {
        yield page;
        page = [];
      }
    }
    if (page.length > 0) yield page;
  }

  /** An id is one in the whole world: wherever it stands, it is meant. */
  private asHere(line: string): unknown {
    return JSON.parse(line.replace(UUID, (id) => this.ids.get(id) ?? id));
  }

  private async children(travelling: TravellingTable, rows: Row[], kind: BroughtKind): Promise<void> {
    const { table, with: parent, grows } = travelling;
    const added = this.added.get(parent!.table);
    const own = rows.filter((row) => added?.has(String(row[parent!.column])));
    if (table === 'source') await insertSources(this.db, own);
    else await insertRows(this.db, table, own);
    // those that refer to it in turn
    this.note(table, own);
    if (grows !== undefined) kind.added += own.length;
    await this.ofThoseHere(
      travelling,
      rows.filter((row) => this.here.has(String(row[parent!.column]))),
      kind,
    );
  }

  /** What belongs to records that are here: added where it only ever grows, else counted where it is missing or says something else. */
  private async ofThoseHere(travelling: TravellingTable, rows: Row[], kind: BroughtKind): Promise<void> {
    if (rows.length === 0) return;
    const { with: parent, grows, table } = travelling;
    const keyOf = keyIn(travelling);
    const there = new Map((await readSameKeys(this.db, travelling, rows)).map((row) => [keyOf(row), row]));
    const missing = rows.filter((row) => !there.has(keyOf(row)));
    const other = rows.filter((row) => {
      const here = there.get(keyOf(row));
      return here !== undefined && !saysTheSame(table, row, here);
    });
    if (grows !== undefined) {
      await insertRows(this.db, table, missing);
      kind.added += missing.length;
      kind.there += rows.length - missing.length;
      kind.differ += other.length;
      return;
    }
    for (const row of [...missing, ...other]) {
      const id = String(row[parent!.column]);
      if (!this.differing.has(id)) this.here.get(id)!.differ++;
      this.differing.add(id);
    }
  }

  private note(table: string, rows: Row[]): void {
    const added = this.added.get(table) ?? new Set();
    this.added.set(table, added);
    for (const row of rows) added.add(String(row['id'] ?? row['run_id']));
  }

  private async records(travelling: TravellingTable, rows: Row[], kind: BroughtKind): Promise<void> {
    const { table } = travelling;
    const keyOf = keyIn(travelling);
    const there = new Map((await readSameKeys(this.db, travelling, rows)).map((row) => [keyOf(row), row]));
    const left = rows.filter((row) => !there.has(keyOf(row)));
    const same = new Map((await readSame(this.db, travelling, left)).map(({ cameId, row }) => [cameId, row]));
    for (const row of rows) {
      const here = there.get(keyOf(row)) ?? same.get(String(row['id']));
      if (here) this.isThere(table, row, here, kind);
      else if (table === 'run') await this.run(row, kind);
      else if (table === 'picture') await this.picture(row, kind);
      else {
        await insertRows(this.db, table, [row]);
        this.note(table, [row]);
        kind.added++;
      }
    }
  }

  private isThere(table: string, row: Row, here: Row, kind: BroughtKind): void {
    kind.there++;
    const id = String(here['id']);
    this.here.set(id, kind);
    if (!saysTheSame(table, row, here)) {
      kind.differ++;
      this.differing.add(id);
    }
    const wasDeleted = (one: Row): boolean => (one['deleted_at'] ?? null) !== null;
    if (wasDeleted(here) && !wasDeleted(row) && isRestorable(table))
      this.deletedHere.push({ table, id, name: nameOf(here) });
    if (row['id'] !== here['id'] && row['id'] !== undefined) this.ids.set(String(row['id']), id);
  }

  private async run(came: Row, kind: BroughtKind): Promise<void> {
    const id = String(came['id']);
    // the sitting of a stretch may have got another id on this page
    const sitting =
      came['sitting_id'] === null
        ? null
        : (this.ids.get(String(came['sitting_id'])) ?? String(came['sitting_id']));
    const twin =
      sitting === null
        ? await this.twin(id, came)
        : this.added.get('run')?.has(sitting)
          ? null
          : await partAt(this.db, sitting, Number(came['part_from_ms']));
    if (twin !== null) {
      this.ids.set(id, twin);
      kind.there++;
      return;
    }
    const { joined_into: joinedInto, ...row } = came;
    if (joinedInto !== null) this.joined.push({ id, into: String(joinedInto) });
    await insertRows(this.db, 'run', [{ ...row, sitting_id: sitting }]);
    this.note('run', [row]);
    kind.added++;
    if (sitting !== null) return;
    const frames = new WrittenFrames();
    for await (const line of this.archive.lines(runFile(id))) frames.take(line);
    await insertChunks(this.db, id, toChunks(frames.track()));
    this.onFile();
  }

  /** A run here that holds the same, frame by frame and line by line. */
  private async twin(id: string, came: Row): Promise<string | null> {
    const candidates = await likelyTwins(this.db, came);
    if (candidates.length === 0) return null;
    const sum = await sumOf(this.archive.lines(runFile(id)));
    for (const candidate of candidates)
      if ((await sumOf(linesOf(runFileOf(this.db, candidate)))) === sum) return candidate;
    return null;
  }

  private async picture(row: Row, kind: BroughtKind): Promise<void> {
    // one of a line that is not here shows its run all the same
    const entryIsHere = await hasEntry(this.db, String(row['run_id']), row['entry_id']);
    const file = pictureFile(String(row['id']), 'jpeg');
    if (this.archive.bytesOf(file) > LARGEST_CHOSEN_BYTES) throw new RangeError('a picture is too large');
    // as one that somebody sends: nothing but what is drawn comes in
    const { width, height, jpeg, small } = await drawnAnew(await buffer(await this.archive.read(file)));
    this.onFile();
    await insertPictureRow(
      this.db,
      { ...row, width, height, entry_id: entryIsHere ? row['entry_id'] : null },
      { jpeg, small },
    );
    kind.added++;
  }
}

/** A row as it may be stored. @throws Problem 422 with the record's place and field */
function checked(table: string, number: number, row: unknown): Row {
  const result = TRAVELLING_ROWS[table]!.safeParse(row);
  if (!result.success) {
    const { path, message } = result.error.issues[0]!;
    return refuse(
      'damaged',
      `Record ${number} in “${rowsFile(table)}” cannot be stored: ${path.join('.') || 'it'}: ${message}.`,
      'Correct it where it came from, and save everything again there.',
    );
  }
  // a page that cannot be made of it would be missed by whoever reads it
  if (table === 'publication') {
    const written = wholePublication(result.data['written'] as never);
    reviewHtml(written, written.voice ?? USUAL_VOICE);
  }
  return result.data;
}

const keyIn =
  ({ key }: TravellingTable) =>
  (row: Row): string =>
    JSON.stringify(key.map((column) => row[column]));

/** Whether two rows hold the same, but for when they came to a house; one of an earlier version lacks what came since. */
function saysTheSame(table: string, came: Row, here: Row): boolean {
  const known = TRAVELLING_ROWS[table]!.safeParse(here);
  const says = (one: Row): Row =>
    Object.fromEntries(Object.entries(one).filter(([column]) => !OF_THE_HOUSE.includes(column)));
  return isDeepStrictEqual(says(came), says(known.success ? known.data : here));
}

const isRestorable = (table: string): table is Restorable => RESTORABLE.some((one) => one === table);

/** What a record is called; of one without a name what it is of. */
function nameOf(row: Row): string {
  const doc = (row['doc'] ?? row) as Row;
  return String(doc['name'] ?? [doc['title'], doc['device'] ?? doc['tool']].filter(Boolean).join(' on '));
}

/** What a run file says, whatever its run is called by. */
async function sumOf(lines: AsyncIterable<string>): Promise<string> {
  const hash = createHash('sha256');
  let first = true;
  for await (const line of lines) {
    const { id: _id, ...header } = first ? (JSON.parse(line) as Row) : {};
    hash.update(first ? JSON.stringify(header) : line).update('\n');
    first = false;
  }
  return hash.digest('hex');
}

async function* linesOf(parts: AsyncIterable<Uint8Array>): AsyncGenerator<string> {
  // each part is a line
  for await (const part of parts) yield Buffer.from(part).toString().trimEnd();
}
