import { once } from 'node:events';
import type { Response } from 'express';
import { Zip, ZipDeflate, ZipPassThrough } from 'fflate';

/** The same files give the same bytes, whenever they are asked for. */
const NO_TIME = new Date(1980, 0, 2);

/** Writes files to an answer as a zip, as they come: none of them is whole in memory. */
export async function sendZip(
  response: Response,
  files: AsyncIterable<{ name: string; bytes: Iterable<Uint8Array> }>,
): Promise<void> {
  const zip = new Zip((error, chunk, last) => {
    if (error) return void response.destroy(error);
    response.write(chunk);
    if (last) response.end();
  });
  for await (const { name, bytes } of files) {
    // a picture is packed already
    const file = /\.(png|jpg)$/.test(name) ? new ZipPassThrough(name) : new ZipDeflate(name, { level: 6 });
    file.mtime = NO_TIME;
    zip.add(file);
    for (const part of bytes) {
      if (response.destroyed) return;
      file.push(part);
      if (response.writableNeedDrain) await drained(response);
    }
    file.push(new Uint8Array(0), true);
  }
  zip.end();
}

/** Until more may be written, or nobody is left to read it. */
async function drained(response: Response): Promise<void> {
  const heard = new AbortController();
  const { signal } = heard;
  await Promise.race([once(response, 'drain', { signal }), once(response, 'close', { signal })]);
  // the one that did not come would listen for ever
  heard.abort();
}
