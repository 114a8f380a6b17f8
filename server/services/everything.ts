import { createHash } from 'node:crypto';
import { Readable } from 'node:stream';
import type { EverythingManifest, PackProgress } from '@pace-check/contract';
import type pg from 'pg';
import { ZipFile } from 'yazl';
import { beginSnapshot, readMigrations, slowClient } from '../sql/backup';
import { countRows, readPictureBytes, readRows, TRAVELLING, type Row } from '../sql/everything';
import { runFileOf } from './runFiles';

/** The same content gives the same bytes, whenever it is asked for. */
const NO_TIME = new Date(1980, 0, 2);
/** Numbers the layout of the zip. */
export const EVERYTHING_VERSION = 1;

export const rowsFile = (table: string): string => `records/${table}.ndjson`;
export const runFile = (id: string): string => `runs/${id}.pace.ndjson`;
export const pictureFile = (id: string, size: 'jpeg' | 'small'): string =>
  size === 'jpeg' ? `evidence/${id}.jpg` : `evidence/${id}.small.jpg`;

/**
 * Everything that stands at one moment as a zip of open files: each run as a
 * run file, each picture, and the records that say what they are and what was
 * made of them, a line of JSON a record; last a manifest with checksums.
 *
 * @returns the zip as it is written; nothing of it is whole in memory
 */
export async function everything(
  url: string,
  { onProgress, signal }: { onProgress: (progress: PackProgress) => void; signal: AbortSignal },
): Promise<Readable> {
  const client = await slowClient(url);
  const zip = new ZipFile();
  const manifest: EverythingManifest = {
    format: 'pace-check-everything',
    version: EVERYTHING_VERSION,
    madeAt: new Date().toISOString(),
    migrations: [],
    files: [],
  };
  let done = 0;
  let total = 0;
  /** A file of the zip, written while the one after it waits. */
  const add = (name: string, at: string, parts: AsyncIterable<Uint8Array>): Promise<void> =>
    new Promise((resolve, reject) => {
      const hash = createHash('sha256');
      let bytes = 0;
      async function* measured(): AsyncGenerator<Uint8Array> {
        for await (const part of parts) {
          signal.throwIfAborted();
          hash.update(part);
          bytes += part.length;
          yield part;
        }
      }
      const content = Readable.from(measured());
      content.on('error', reject);
      content.on('end', () => {
        manifest.files.push({ name, bytes, sha256: hash.digest('hex') });
        onProgress({ done: ++done, total, at });
        resolve();
      });
      zip.addReadStream(content, name, { mtime: NO_TIME, compress: !name.endsWith('.jpg') });
    });
  const write = async (): Promise<void> => {
    await beginSnapshot(client);
    manifest.migrations = await readMigrations(client);
    total =
      TRAVELLING.length + (await countRows(client, 'run')) + 2 * (await countRows(client, 'picture')) + 1;
    for (const travelling of TRAVELLING) {
      const runs: string[] = [];
      const pictures: string[] = [];
      async function* lines(): AsyncGenerator<Uint8Array> {
        for await (const rows of readRows(client, travelling)) {
          // a stretch of a sitting has no lines of its own
          if (travelling.table === 'run')
            runs.push(...idsOf(rows.filter((row) => row['sitting_id'] === null)));
          if (travelling.table === 'picture') pictures.push(...idsOf(rows));
          yield Buffer.from(rows.map((row) => `${JSON.stringify(row)}\n`).join(''));
        }
      }
      await add(rowsFile(travelling.table), 'records', lines());
      for (const id of runs) await add(runFile(id), 'runs', runFileOf(client, id));
      for (const id of pictures) {
        const { jpeg, small } = await readPictureBytes(client, id);
        await add(pictureFile(id, 'jpeg'), 'pictures', once(jpeg));
        await add(pictureFile(id, 'small'), 'pictures', once(small));
      }
    }
    zip.addBuffer(Buffer.from(JSON.stringify(manifest, null, 1)), 'manifest.json', { mtime: NO_TIME });
    zip.end();
    onProgress({ done: total, total, at: 'done' });
  };
  const output = zip.outputStream as Readable;
  // nobody reads it any more: what waits to be read would wait for ever
  signal.addEventListener('abort', () => void end(new Error('cancelled')));
  let ended = false;
  async function end(error?: Error): Promise<void> {
    if (ended) return;
    ended = true;
    if (error) output.destroy(error);
    await client.end().catch(() => undefined);
  }
  write().then(
    () => end(),
    (error: Error) => end(error),
  );
  return output;
}

const idsOf = (rows: Row[]): string[] => rows.map((row) => String(row['id']));

async function* once(bytes: Uint8Array): AsyncGenerator<Uint8Array> {
  yield bytes;
}

/** Where the server's database is, for what needs a connection of its own. */
export const addressOf = (pool: pg.Pool): string => pool.options.connectionString!;
