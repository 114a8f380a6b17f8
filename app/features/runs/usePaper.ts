import { readNotebook, type PaperContext, type PaperLine } from '@pace-check/core';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useVoice } from '../../ui/Voice';

/** How a notebook page is understood, and whether that is still going on. */
export interface Paper {
  lines: PaperLine[];
  reading: boolean;
  /** Gives up reading: the text stays, nothing of it is understood. */
  stop: () => void;
}

/** Characters that are understood between two strokes of a key; more of them go to a worker. */
const AT_ONCE = 8000;
const NOTHING: PaperLine[] = [];

/**
 * Understands a notebook page in the reader's scale: at once while it is typed,
 * in a worker where it is long.
 *
 * @param known what the screen knows of the run: its spots, its length
 */
export function usePaper(text: string, known: Omit<PaperContext, 'unit'> = {}): Paper {
  const { unit } = useVoice();
  const { spots, lengthMs, startedMin } = known;
  const context = useMemo<PaperContext>(
    () => ({ unit, spots, lengthMs, startedMin }),
    [unit, spots, lengthMs, startedMin],
  );
  const long = text.length > AT_ONCE;
  const worker = useRef<Worker | null>(null);
  const [read, setRead] = useState<{ of: string; lines: PaperLine[] } | null>(null);
  const short = useMemo(() => (long ? NOTHING : readNotebook(text, context)), [text, context, long]);
  useEffect(() => {
    if (!long) return;
    const own = new Worker(new URL('./notebook.worker', import.meta.url));
    worker.current = own;
    own.onmessage = (event: MessageEvent<PaperLine[]>) => setRead({ of: text, lines: event.data });
    own.onerror = () => setRead({ of: text, lines: NOTHING });
    own.postMessage({ text, context });
    return () => own.terminate();
  }, [text, context, long]);
  const stop = (): void => {
    worker.current?.terminate();
    setRead({ of: text, lines: NOTHING });
  };
  if (!long) return { lines: short, reading: false, stop };
  return { lines: read?.of === text ? read.lines : NOTHING, reading: read?.of !== text, stop };
}
