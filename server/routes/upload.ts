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

/** Everything of years is larger than any log. */
export const LARGEST_EVERYTHING_BYTES = 16 * 1024 ** 3;

/** Names of the folders that uploads lie in: the server's process is part of it. */
const FOLDER = 'pace-check-upload-';

/**
 * Writes a request's body to a temporary file, hands it to `work` and removes
 * it, whatever happens.
 *
 * @param largestBytes of the body; as much as a log may have unless said otherwise
 * @throws Problem 413 when it is larger
 */
export async function withUploadedFile<T>(
  request: Request,
  work: (file: ArrivedFile) => Promise<T>,
  largestBytes = LARGEST_LOG_BYTES,
): Promise<T> {
  if (Number(request.headers['content-length'] ?? 0) > largestBytes) {
    // read on, so that the browser hears the answer instead of a broken pipe
    request.resume();
    throw uploadTooLarge(largestBytes);
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
        if (bytes > largestBytes) done(uploadTooLarge(largestBytes));
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

function uploadTooLarge(largestBytes: number): Problem {
  const { code, message, remedy } = tooLarge(largestBytes);
  return new Problem(413, { code, message, remedy });
}
