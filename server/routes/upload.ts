import { createHash } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { LARGEST_LOG_BYTES } from '@pace-check/contract';
import { tooLarge } from '@pace-check/core';
import type { Request } from 'express';
import type { ArrivedFile } from '../services/imports';
import { Problem } from '../services/problem';

/**
 * Writes a request's body to a temporary file, hands it to `work` and removes
 * it, whatever happens.
 *
 * @throws Problem 413 when the body is larger than a log may be
 */
export async function withUploadedFile<T>(request: Request, work: (file: ArrivedFile) => Promise<T>): Promise<T> {
  if (Number(request.headers['content-length'] ?? 0) > LARGEST_LOG_BYTES) {
    // read on, so that the browser hears the answer instead of a broken pipe
    request.resume();
    throw uploadTooLarge();
  }
  const folder = await mkdtemp(join(tmpdir(), 'pace-check-'));
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

function uploadTooLarge(): Problem {
  const { code, message, remedy } = tooLarge(LARGEST_LOG_BYTES);
  return new Problem(413, { code, message, remedy });
}
