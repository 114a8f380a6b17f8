import { pathOf, ROUTES } from '@pace-check/contract';
import type {
  BatchTaken,
  BenchSource,
  CoolWatch,
  NewStandIn,
  Recording,
  SourceKind,
  SourceWithKey,
} from '@pace-check/contract';
import { useMutation, useQuery, type UseMutationResult, type UseQueryResult } from '@tanstack/react-query';
import { useRef } from 'react';
import { ask, send } from './client';

/** Lists of what goes on are asked for again so often, ms. */
const AGAIN_MS = 4000;

export const useRecordings = (): UseQueryResult<Recording[], Error> =>
  useQuery({
    queryKey: ['recordings'],
    queryFn: () => ask(ROUTES.recordings, {}),
    refetchInterval: AGAIN_MS,
  });
export const useCoolWatches = (): UseQueryResult<CoolWatch[], Error> =>
  useQuery({
    queryKey: ['cool-downs'],
    queryFn: () => ask(ROUTES.coolWatches, {}),
    refetchInterval: AGAIN_MS,
  });

export const useAddSource = (
  runId: string,
): UseMutationResult<SourceWithKey, Error, { name: string; kind: SourceKind }> =>
  useMutation({ mutationFn: (source) => ask(ROUTES.addSource, { params: { id: runId }, body: source }) });
export const useAddStandIn = (runId: string): UseMutationResult<BenchSource, Error, NewStandIn> =>
  useMutation({ mutationFn: (standIn) => ask(ROUTES.addStandIn, { params: { id: runId }, body: standIn }) });
export const useRevokeSource = (runId: string): UseMutationResult<void, Error, string> =>
  useMutation({ mutationFn: (id) => ask(ROUTES.revokeSource, { params: { id: runId, source: id } }) });

/** Sends what a shell printed, as a source of its own: made once, however often it is tried. */
export function useShellText(runId: string): UseMutationResult<BatchTaken, Error, string> {
  const made = useRef<SourceWithKey | null>(null);
  return useMutation({
    mutationFn: async (text) => {
      made.current ??= await ask(ROUTES.addSource, {
        params: { id: runId },
        body: { name: 'Shell output', kind: 'other' },
      });
      return send<BatchTaken>(`/api${pathOf(ROUTES.liveShell, { query: { seq: 0 } })}`, {
        method: 'POST',
        headers: { authorization: `Bearer ${made.current.key}`, 'content-type': 'text/plain' },
        body: text,
      });
    },
  });
}
