import { useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { askAnew } from '../api/askAnew';
import { CHANGED_BY_A_RESULT } from '../api/queries';
import { outbox, useOutbox, type Waiting } from './index';

/** A result that was kept here and that the server does not have yet. */
export interface UnsentResult {
  id: string;
  name: string;
  setup: string | null;
  pictures: number;
  /** Why the server does not take it; null while it is on its way. */
  refused: { n: number; why: string } | null;
}

/** Results that wait in this browser, the latest first. */
export function useUnsentResults(): UnsentResult[] {
  const { waiting } = useOutbox();
  return waiting
    .flatMap((one) => (one.to === 'run' && one.change.kind === 'make' ? [asResult(one, waiting)] : []))
    .reverse();
}

function asResult(one: Waiting<'run'>, waiting: Waiting[]): UnsentResult {
  const { id, change, refused, n } = one;
  const run = change.kind === 'make' ? change.run : null;
  return {
    id,
    name: run?.name ?? `${run?.facts.title} on ${run?.facts.device}`,
    setup: run?.facts.setup ?? null,
    pictures: waiting.filter(
      (other) => other.to === 'run' && other.id === id && other.change.kind === 'picture',
    ).length,
    refused: refused === null ? null : { n, why: refused },
  };
}

/** What the server has taken of results is asked for anew. */
export function useSentResults(): void {
  const client = useQueryClient();
  useEffect(
    () =>
      outbox.onSent((sent) => {
        const ids = new Set(sent.flatMap((one) => (one.to === 'run' ? [one.id] : [])));
        if (ids.size === 0) return;
        void askAnew(client, ...CHANGED_BY_A_RESULT, ...[...ids].map((id) => ['run', id]));
      }),
    [client],
  );
}
