import { createHash } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { open, rename, rm, stat } from 'node:fs/promises';
import { pipeline } from 'node:stream/promises';
import { text } from 'node:stream/consumers';
import { extract, pack } from 'tar-stream';
import * as z from 'zod';
import { Problem } from './problem';

/** What a backup says of itself: the first file in it. */
export const backupManifest = z.object({
  format: z.literal('pace-check-backup'),
  version: z.number().int().min(1),
  program: z.string(),
  methodVersion: z.number(),
  postgres: z.string(),
  madeAt: z.string(),
  /** Files of migrations that the database had seen. */
  migrations: z.array(z.string()),
  tables: z.record(z.string(), z.object({ rows: z.number(), sum: z.string() })),
  dump: z.object({ bytes: z.number(), sha256: z.string() }),
});
export type BackupManifest = z.infer<typeof backupManifest>;

/** Of what is written now; a later one is a newer program's. */
export const BACKUP_VERSION = 1;
const MANIFEST = 'manifest.json';
const DUMP = 'database.dump';
/** A manifest is some kilobytes. */
const MOST_MANIFEST_BYTES = 1024 * 1024;

const refuse = (message: string, remedy: string): Problem =>
  new Problem(422, { code: 'no-backup', message, remedy: `Nothing was changed. ${remedy}` });
const cutOff = (): Problem =>
  refuse(
    'The file is incomplete.',
    'It was probably cut off during copying. Copy it again, or use an earlier backup.',
  );

/** SHA-256 and length of a file. */
export async function digestOf(file: string): Promise<{ bytes: number; sha256: string }> {
  const hash = createHash('sha256');
  await pipeline(createReadStream(file), hash);
  return { bytes: (await stat(file)).size, sha256: hash.digest('hex') };
}

/**
 * Writes manifest and dump as one tar file. It has its name when it is whole
 * and on the disk: nobody takes half of one for a backup.
 */
export async function writeBackup(file: string, manifest: BackupManifest, dump: string): Promise<void> {
  const part = `${file}.part`;
  try {
    const tar = pack();
    const written = pipeline(tar, createWriteStream(part, { mode: 0o600 }));
    tar.entry({ name: MANIFEST }, `${JSON.stringify(manifest, null, 2)}\n`);
    const entry = tar.entry({ name: DUMP, size: manifest.dump.bytes });
    await pipeline(createReadStream(dump), entry);
    tar.finalize();
    await written;
    const handle = await open(part, 'r+');
    await handle.sync();
    await handle.close();
    await rename(part, file);
  } finally {
    await rm(part, { force: true });
  }
}

/**
 * Reads a backup: the manifest first, then the dump into a file, each looked
 * at before anything is done with it.
 *
 * @param known files of migrations that this program has
 * @throws Problem 422 for what is none, is cut off, damaged, or a newer program's
 */
export async function readBackup(file: string, dump: string, known: string[]): Promise<BackupManifest> {
  let manifest: BackupManifest | null = null;
  let whole = false;
  const tar = extract();
  const feeding = pipeline(createReadStream(file), tar);
  // told by what reads from it
  feeding.catch(() => undefined);
  try {
    for await (const entry of tar) {
      if (entry.header.name === MANIFEST && manifest === null)
        manifest = manifestOf(await shortText(entry), known);
      else if (entry.header.name === DUMP && manifest !== null) {
        await pipeline(entry, createWriteStream(dump, { mode: 0o600 }));
        whole = true;
      } else
        throw refuse('This file is not a Pace Check backup.', 'Choose a file written by “npm run backup”.');
    }
    await feeding;
  } catch (error) {
    if (error instanceof Problem) throw error;
    if ((error as NodeJS.ErrnoException).code === 'ENOENT' && !manifest)
      throw refuse(`File not found: ${file}`, 'Enter the path of a backup.');
    if (/Unexpected end of data|Premature close|Writable stream closed/.test(String(error))) throw cutOff();
    if (/Invalid tar header/.test(String(error)))
      throw refuse(
        'This file is not a Pace Check backup, or it is damaged.',
        'Choose a file written by “npm run backup”.',
      );
    throw error;
  }
  if (manifest === null)
    throw refuse('This file is not a Pace Check backup.', 'Choose a file written by “npm run backup”.');
  if (!whole) throw cutOff();
  const found = await digestOf(dump);
  if (found.bytes !== manifest.dump.bytes) throw cutOff();
  if (found.sha256 !== manifest.dump.sha256)
    throw refuse(
      'The backup is damaged: the checksum does not match.',
      'Copy it again, or use an earlier backup.',
    );
  return manifest;
}

async function shortText(entry: AsyncIterable<unknown> & { header: { size?: number } }): Promise<string> {
  if ((entry.header.size ?? 0) > MOST_MANIFEST_BYTES)
    throw refuse('This file is not a Pace Check backup.', 'The first file in it is not a valid manifest.');
  return text(entry);
}

function manifestOf(written: string, known: string[]): BackupManifest {
  let json: unknown;
  try {
    json = JSON.parse(written);
  } catch {
    throw refuse('The backup’s manifest cannot be read.', 'The backup is damaged. Use an earlier one.');
  }
  const version = (json as { version?: unknown } | null)?.version;
  const parsed = backupManifest.safeParse(json);
  const newer = refuse(
    'The backup was made with a newer version of Pace Check.',
    'Restore it with that version or a later one.',
  );
  if (typeof version === 'number' && version > BACKUP_VERSION) throw newer;
  if (!parsed.success)
    throw refuse('This file is not a Pace Check backup.', 'Choose a file written by “npm run backup”.');
  if (parsed.data.migrations.some((file) => !known.includes(file))) throw newer;
  return parsed.data;
}
