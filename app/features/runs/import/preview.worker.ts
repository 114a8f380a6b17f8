import { checkRunLine, LARGEST_LOG_BYTES } from '@pace-check/contract';
import {
  averagePace,
  frameStartsUs,
  HEAD_BYTES,
  isGzip,
  lastLineMs,
  LogRefused,
  noUsableColumn,
  readRun,
  tooLarge,
  viewHead,
} from '@pace-check/core';
import type { PreviewFigures, PreviewHead, PreviewMessage, PreviewRequest } from './preview';

/** Reads a chosen file off the main thread, with the same core that the server uses. */
const post = (message: PreviewMessage): void => self.postMessage(message);

self.onmessage = (event: MessageEvent<PreviewRequest>): void => {
  void preview(event.data).catch((error: unknown) => {
    if (error instanceof LogRefused)
      post({
        refused: {
          code: error.code,
          message: error.message,
          remedy: error.remedy,
          line: error.line,
          rows: error.rows,
        },
      });
    else
      post({
        refused: {
          code: 'unreadable',
          message: `The file cannot be read (${error instanceof Error ? error.message : String(error)}).`,
          remedy: 'Check that the file still exists and that you have access to it, then choose it again.',
          line: null,
          rows: [],
        },
      });
  });
};

async function preview({ file, given, choice }: PreviewRequest): Promise<void> {
  if (file.size > LARGEST_LOG_BYTES) throw tooLarge(LARGEST_LOG_BYTES);
  const gzip = isGzip(new Uint8Array(await file.slice(0, 2).arrayBuffer()));
  const { head, whole } = await headOf(file, gzip);
  const view = viewHead(head, whole, given);
  if (view.kind !== 'delimited') {
    post({ head: { layout: null, guesses: [], choice: null } });
    return post({ figures: await read(file, gzip, null) });
  }
  const chosen = choice ?? view.guesses[0] ?? null;
  post({ head: { layout: view.layout, guesses: view.guesses, choice: chosen } });
  if (!chosen) throw noUsableColumn(view.layout);
  post({ figures: await read(file, gzip, { layout: view.layout, choice: chosen }) });
}

async function read(
  file: Blob,
  gzip: boolean,
  reading: { layout: NonNullable<PreviewHead['layout']>; choice: NonNullable<PreviewHead['choice']> } | null,
): Promise<PreviewFigures> {
  const run = await readRun(
    bytesOf(file, gzip, (bytes) => post({ progress: bytes / Math.max(1, file.size) })),
    { reading, checkLine: checkRunLine, largest: LARGEST_LOG_BYTES },
  );
  const { frameUs } = run.track;
  const framesUs = frameUs.reduce((sum, us) => sum + us, 0);
  return {
    header: run.header,
    frames: frameUs.length,
    seconds:
      (frameUs.length > 0 ? frameStartsUs(run.track)[frameUs.length]! : lastLineMs(run.entries) * 1000) / 1e6,
    average: averagePace(frameUs.length, framesUs),
    dropped: run.tally.unreadable,
    rows: run.tally.listed.slice(0, 20),
    readings: run.entries.length,
  };
}

/** The file's bytes, unpacked; `onRead` is told how many of the file's own bytes are through. */
async function* bytesOf(
  file: Blob,
  gzip: boolean,
  onRead: (bytes: number) => void,
): AsyncGenerator<Uint8Array> {
  let through = 0;
  const counted = file.stream().pipeThrough(
    new TransformStream<Uint8Array<ArrayBuffer>, Uint8Array<ArrayBuffer>>({
      transform(chunk, controller) {
        through += chunk.length;
        onRead(through);
        controller.enqueue(chunk);
      },
    }),
  );
  const reader = (gzip ? counted.pipeThrough(new DecompressionStream('gzip')) : counted).getReader();
  try {
    for (;;) {
      const { done, value } = await reader.read();
      if (done) return;
      yield value;
    }
  } catch (error) {
    if (!gzip) throw error;
    throw new LogRefused(
      'broken-archive',
      'The gzip file is incomplete or damaged.',
      'It was probably cut off during copying. Copy it again, or choose the unpacked file.',
    );
  } finally {
    void reader.cancel().catch(() => undefined);
  }
}

async function headOf(file: Blob, gzip: boolean): Promise<{ head: Uint8Array; whole: boolean }> {
  const parts: Uint8Array[] = [];
  let size = 0;
  let whole = true;
  for await (const chunk of bytesOf(file, gzip, () => undefined)) {
    parts.push(chunk);
    size += chunk.length;
    if (size > HEAD_BYTES) {
      whole = false;
      break;
    }
  }
  const head = new Uint8Array(await new Blob(parts as BlobPart[]).arrayBuffer());
  return { head: head.subarray(0, HEAD_BYTES), whole };
}
