import type { PackProgress } from '@pace-check/contract';
import { useRef, useState } from 'react';
import { v4 as newId } from 'uuid';
import { fetchFile } from '../../api/client';
import { saveFile } from '../../api/download';
import { useProgress } from '../../api/progress';

/** How a pack that is being written stands. */
export interface Packing {
  /** Null where none is being written. */
  progress: PackProgress | null;
  error: Error | null;
  start: (overlay: boolean) => void;
  cancel: () => void;
}

/** Has a pack written and saved; it can be given up on the way, and then leaves nothing. */
export function usePack(id: string, name: string): Packing {
  const [job, setJob] = useState<string | null>(null);
  const [error, setError] = useState<Error | null>(null);
  const running = useRef<AbortController | null>(null);
  const progress = useProgress(job);
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
    progress,
    error,
    start: (overlay) => void start(overlay),
    cancel: () => running.current?.abort(),
  };
}
