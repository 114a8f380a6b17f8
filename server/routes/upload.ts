import { createHash } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdtemp, readdir, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { LARGEST_LOG_BYTES } from '@pace-check/contract';
import { tooLarge } from '@pace-check/core';
import type { Request } from 'express';
import type { ArrivedFile } from '../services/imports';
import { Problem } from '../services/problem';
import { codeOf } from '../sql/database';

/** Names of the folders that uploads lie in: the server's process is part of it. */
const FOLDER = 'pace-check-upload-';

/**
 * Writes a request's body to a temporary file, hands it to `work` and removes
 * it, whatever happens.
 *
 * @throws Problem 413 when the body is larger than a log may be
 */
export async function withUploadedFile<T>(
  request: Request,
  work: (file: ArrivedFile) => Promise<T>,
): Promise<T> {
  if (Number(request.headers['content-length'] ?? 0) > LARGEST_LOG_BYTES) {
    // read on, so that the browser hears the answer instead of a broken pipe
    request.resume();
    throw uploadTooLarge();
  }
  const folder = await mkdtemp(join(tmpdir(), `${FOLDER}${process.pid}-`));
  try {
    const path = join(folder, 'upload');
    const hash = createHash('sha256');
    let bytes = 0;
    const measure = new Transform({
      transform(chunk: Buffer, _encoding, done) {
        bytes += chunk.length;
        hash.update(chunk);
        if (bytes > LARGEST_LOG_BYTES) done(uploadTooLarge());
        else done(null, chunk);
      },
    });
    await pipeline(request, measure, createWriteStream(path));
    return await work({ path, bytes, sha256: hash.digest('hex') });
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/** Removes what uploads to a server that was killed have left. */
export async function sweepUploads(): Promise<void> {
  for (const name of await readdir(tmpdir())) {
    const pid = new RegExp(`^${FOLDER}(\\d+)-`).exec(name)?.[1];
    if (pid !== undefined && !isAlive(Number(pid)))
      await rm(join(tmpdir(), name), { recursive: true, force: true });
  }
}

function isAlive(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    // somebody else's process
    return codeOf(error) === 'EPERM';
  }
}

function uploadTooLarge(): Problem {
  const { code, message, remedy } = tooLarge(LARGEST_LOG_BYTES);
  return new Problem(413, { code, message, remedy });
}
