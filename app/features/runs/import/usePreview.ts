import { useEffect, useState } from 'react';
import type { PreviewFigures, PreviewHead, PreviewMessage, PreviewRefusal, PreviewRequest } from './preview';

/** How far the reading of a chosen file has come. */
export interface Preview {
  /** Share (0–1) of the file that is read. */
  progress: number;
  head: PreviewHead | null;
  figures: PreviewFigures | null;
  refused: PreviewRefusal | null;
}

const START: Preview = { progress: 0, head: null, figures: null, refused: null };

interface Told {
  of: PreviewRequest | null;
  now: Preview;
}

/** What earlier words on the same file say of its head stands until this reading says otherwise: nothing jumps. */
const upTo = (told: Told, request: PreviewRequest | null): Preview =>
  told.of === request
    ? told.now
    : { ...START, head: told.of && told.of.file === request?.file ? told.now.head : null };

/** Reads a file in a worker, anew whenever the question changes; the old reading is dropped. */
export function usePreview(request: PreviewRequest | null): Preview {
  const [told, setTold] = useState<Told>({ of: null, now: START });
  useEffect(() => {
    if (!request) return;
    const worker = new Worker(new URL('./preview.worker', import.meta.url));
    const hear = (message: Partial<Preview>): void =>
      setTold((before) => ({ of: request, now: { ...upTo(before, request), ...message } }));
    worker.onmessage = (event: MessageEvent<PreviewMessage>) => hear(event.data);
    worker.onerror = (event) =>
      hear({
        refused: {
          code: 'unreadable',
          message: `The file could not be read (${event.message}).`,
          remedy: 'Reload the page and choose it again.',
          line: null,
          rows: [],
        },
      });
    worker.postMessage(request);
    return () => worker.terminate();
  }, [request]);
  return upTo(told, request);
}
