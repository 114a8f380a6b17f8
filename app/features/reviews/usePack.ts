import { ROUTES, type PackProgress } from '@pace-check/contract';
import { useQuery } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { v4 as newId } from 'uuid';
import { ask, fetchFile } from '../../api/client';
import { saveFile } from '../../api/download';

/** How a pack that is being written stands. */
export interface Packing {
  /** Null where none is being written. */
  progress: PackProgress | null;
  error: Error | null;
  start: (overlay: boolean) => void;
  cancel: () => void;
}

/** How often it is asked how far a pack is, ms. */
const ASK_MS = 500;
const BEGUN: PackProgress = { done: 0, total: 0, at: 'beginning' };

/** Has a pack written and saved; it can be given up on the way, and then leaves nothing. */
export function usePack(id: string, name: string): Packing {
  const [job, setJob] = useState<string | null>(null);
  const [error, setError] = useState<Error | null>(null);
  const running = useRef<AbortController | null>(null);
  const progress = useQuery({
    queryKey: ['packs', job],
    queryFn: ({ signal }) => ask(ROUTES.packProgress, { params: { id: job! } }, { signal }),
    enabled: job !== null,
    refetchInterval: ASK_MS,
    // not known yet in the first moment
    retry: false,
    gcTime: 0,
  });
  const start = async (overlay: boolean): Promise<void> => {
    const controller = new AbortController();
    const job = newId();
    running.current = controller;
    setError(null);
    setJob(job);
    try {
      const query = new URLSearchParams({ job, overlay: overlay ? 'yes' : 'no' });
      const file = await fetchFile(`/api/reviews/${id}/pack?${query}`, controller.signal);
      saveFile(file, `${name.replace(/[^\p{L}\p{N}]+/gu, '-')}.zip`);
    } catch (failed) {
      if (!controller.signal.aborted) setError(failed instanceof Error ? failed : new Error(String(failed)));
    } finally {
      setJob(null);
    }
  };
  return {
    progress: job === null ? null : (progress.data ?? BEGUN),
    error,
    start: (overlay) => void start(overlay),
    cancel: () => running.current?.abort(),
  };
}
