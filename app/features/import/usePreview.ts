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

/** Reads a file in a worker, anew whenever the question changes; the old reading is dropped. */
export function usePreview(request: PreviewRequest | null): Preview {
  const [preview, setPreview] = useState<{ of: PreviewRequest | null; now: Preview }>({ of: null, now: START });
  useEffect(() => {
    if (!request) return;
    const worker = new Worker(new URL('./preview.worker', import.meta.url));
    // what an earlier reading said of the file's head stands until this one says otherwise: nothing jumps
    setPreview((before) => ({ of: request, now: { ...START, head: before.of?.file === request.file ? before.now.head : null } }));
    worker.onmessage = (event: MessageEvent<PreviewMessage>) => setPreview((before) => (before.of === request ? { of: request, now: { ...before.now, ...event.data } } : before));
    worker.onerror = (event) => setPreview({ of: request, now: { ...START, refused: { code: 'unreadable', message: `The file could not be read (${event.message}).`, remedy: 'Reload the page and choose it again.', line: null, rows: [] } } });
    return () => worker.terminate();
  }, [request]);
  return preview.of === request ? preview.now : START;
}
