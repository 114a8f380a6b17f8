import { createHash } from 'node:crypto';
import { createInterface } from 'node:readline';
import { buffer } from 'node:stream/consumers';
import { promisify, isDeepStrictEqual } from 'node:util';
import {
  everythingManifest,
  type Brought,
  type BroughtKind,
  type EverythingManifest,
  type PackProgress,
} from '@pace-check/contract';
import { LogRefused } from '@pace-check/core';
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
import { EVERYTHING_VERSION, pictureFile, rowsFile, runFile } from './everything';
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

const refuse = (code: string, message: string, remedy: string): never => {
  throw new Problem(422, { code, message, remedy: `Nothing was brought in. ${remedy}` });
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
      const known = await readMigrations(client);
      const { manifest } = archive;
      if (manifest.version > EVERYTHING_VERSION || manifest.migrations.some((file) => !known.includes(file)))
        refuse('newer', 'The file was written by a newer Pace Check.', 'Update this one first.');
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
        'This is not everything of a Pace Check.',
        'Choose the zip that “Save everything” wrote.',
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
      refuse(
        'damaged',
        `The file “${name}” in it is damaged or missing.`,
        'Save everything anew where it came from.',
      );
  }

  has(name: string): boolean {
    return this.manifest.files.some((file) => file.name === name);
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

  constructor(
    private readonly db: pg.Client,
    private readonly archive: Archive,
    private readonly onFile: () => void,
  ) {}

  async all(): Promise<Brought> {
    const kinds: BroughtKind[] = [];
    for (const travelling of TRAVELLING) {
      const kind = { what: travelling.what ?? '', added: 0, there: 0, differ: 0 };
      try {
        for await (const rows of this.pages(travelling.table)) {
          if (travelling.with) await this.children(travelling, rows);
          else await this.records(travelling, rows, kind);
        }
      } catch (error) {
        // what is no record, and what the database refuses of one: its values, columns, or what it refers to
        if (!isOfRecord(error)) throw error;
        refuse(
          'damaged',
          `A record in “${rowsFile(travelling.table)}” cannot be stored: ${(error as Error).message}.`,
          'Save everything anew where it came from.',
        );
      }
      this.onFile();
      if (travelling.what !== null && kind.added + kind.there > 0) kinds.push(kind);
    }
    await setJoinedInto(
      this.db,
      this.joined.map(({ id, into }) => ({ id, into: this.ids.get(into) ?? into })),
    );
    return { kinds };
  }

  /** Rows of a table, some hundreds at a time, with the ids that they have here. */
  private async *pages(table: string): AsyncGenerator<Row[]> {
    let page: Row[] = [];
    for await (const line of this.archive.lines(rowsFile(table))) {
      page.push(this.asHere(line));
      if (page.length === PAGE_ROWS) {
        yield page;
        page = [];
      }
    }
    if (page.length > 0) yield page;
  }

  /** An id is one in the whole world: wherever it stands, it is meant. */
  private asHere(line: string): Row {
    return JSON.parse(line.replace(UUID, (id) => this.ids.get(id) ?? id)) as Row;
  }

  private async children({ table, with: parent }: TravellingTable, rows: Row[]): Promise<void> {
    const added = this.added.get(parent!.table);
    const own = rows.filter((row) => added?.has(String(row[parent!.column])));
    if (table === 'source') await insertSources(this.db, own);
    else await insertRows(this.db, table, own);
    // those that refer to it in turn
    this.note(table, own);
  }

  private note(table: string, rows: Row[]): void {
    const added = this.added.get(table) ?? new Set();
    this.added.set(table, added);
    for (const row of rows) added.add(String(row['id'] ?? row['run_id']));
  }

  private async records(travelling: TravellingTable, rows: Row[], kind: BroughtKind): Promise<void> {
    const { table, key } = travelling;
    const keyOf = (row: Row): string => JSON.stringify(key.map((column) => row[column]));
    const there = new Map((await readSameKeys(this.db, travelling, rows)).map((row) => [keyOf(row), row]));
    const left = rows.filter((row) => !there.has(keyOf(row)));
    const same = new Map((await readSame(this.db, travelling, left)).map(({ cameId, row }) => [cameId, row]));
    for (const row of rows) {
      const here = there.get(keyOf(row)) ?? same.get(String(row['id']));
      if (here) this.isThere(row, here, kind);
      else if (table === 'run') await this.run(row, kind);
      else if (table === 'picture') await this.picture(row, kind);
      else {
        await insertRows(this.db, table, [row]);
        this.note(table, [row]);
        kind.added++;
      }
    }
  }

  private isThere(row: Row, here: Row, kind: BroughtKind): void {
    kind.there++;
    const says = (one: Row): Row =>
      Object.fromEntries(Object.entries(one).filter(([column]) => !OF_THE_HOUSE.includes(column)));
    if (!isDeepStrictEqual(says(row), says(here))) kind.differ++;
    if (row['id'] !== here['id'] && row['id'] !== undefined)
      this.ids.set(String(row['id']), String(here['id']));
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
    const id = String(row['id']);
    const file = async (size: 'jpeg' | 'small'): Promise<Buffer> => {
      this.onFile();
      return buffer(await this.archive.read(pictureFile(id, size)));
    };
    await insertPictureRow(
      this.db,
      { ...row, entry_id: entryIsHere ? row['entry_id'] : null },
      { jpeg: await file('jpeg'), small: await file('small') },
    );
    kind.added++;
  }
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
