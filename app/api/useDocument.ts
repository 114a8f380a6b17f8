import type { UseMutationResult } from '@tanstack/react-query';
import { useCallback, useEffect, useRef, useState } from 'react';

/** What is written, and how its keeping stands. */
export interface Writing<D> {
  doc: D;
  /** The revision at the server that it was made to, or that it is. */
  revision: number;
  change: (change: (doc: D) => D) => void;
  /** Everything that was typed is with the server. */
  kept: boolean;
  error: Error | null;
  retry: () => void;
}

/** After so long without a key what was typed is sent, ms: not at every key, and before anybody leaves. */
const IDLE_MS = 600;

/**
 * A document as it is being written: shown at once, kept a moment after the
 * last key; what could not be kept stays on the screen.
 *
 * @param first as it was opened
 * @param keep replaces it whole at the server, made to the revision that was seen
 */
export function useDocument<D>(
  first: { doc: D; revision: number },
  keep: UseMutationResult<{ revision: number }, Error, { revision: number; doc: D }>,
): Writing<D> {
  const [doc, setDoc] = useState(first.doc);
  const [unkept, setUnkept] = useState(false);
  const [seen, setSeen] = useState(first.revision);
  const queue = useRef<Promise<unknown>>(Promise.resolve());
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  const latest = useRef(doc);
  const revision = useRef(first.revision);
  const { mutateAsync } = keep;
  const send = (): void => {
    const sent = latest.current;
    // one after the other: each is made to the revision that the one before left
    queue.current = queue.current
      .then(() => mutateAsync({ revision: revision.current, doc: sent }))
      .then((stored) => {
        revision.current = stored.revision;
        setSeen(stored.revision);
        setUnkept(latest.current !== sent);
      })
      // what went wrong stands in the mutation's error
      .catch(() => undefined);
  };
  const leave = useRef(send);
  useEffect(() => {
    leave.current = send;
  });
  // whoever goes elsewhere in the middle of a word loses none of it
  useEffect(
    () => () => {
      if (timer.current !== null) {
        clearTimeout(timer.current);
        leave.current();
      }
    },
    [],
  );
  // the same at every key: what does not change with the text is not drawn anew
  const change = useCallback((make: (doc: D) => D): void => {
    const next = make(latest.current);
    latest.current = next;
    setDoc(next);
    setUnkept(true);
    if (timer.current !== null) clearTimeout(timer.current);
    timer.current = setTimeout(() => {
      timer.current = null;
      leave.current();
    }, IDLE_MS);
  }, []);
  return {
    doc,
    revision: seen,
    change,
    kept: !unkept,
    error: keep.error,
    retry: send,
  };
}
