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
import { api } from './client';

const send = (body: unknown): RequestInit => ({
  method: 'POST',
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify(body),
});

/** Lists of what goes on are asked for again so often, ms. */
const AGAIN_MS = 4000;

export const useRecordings = (): UseQueryResult<Recording[], Error> =>
  useQuery({
    queryKey: ['recordings'],
    queryFn: () => api<Recording[]>('/bench'),
    refetchInterval: AGAIN_MS,
  });
export const useCoolWatches = (): UseQueryResult<CoolWatch[], Error> =>
  useQuery({
    queryKey: ['cool-downs'],
    queryFn: () => api<CoolWatch[]>('/cool-downs'),
    refetchInterval: AGAIN_MS,
  });

export const useAddSource = (
  runId: string,
): UseMutationResult<SourceWithKey, Error, { name: string; kind: SourceKind }> =>
  useMutation({ mutationFn: (source) => api<SourceWithKey>(`/bench/${runId}/sources`, send(source)) });
export const useAddStandIn = (runId: string): UseMutationResult<BenchSource, Error, NewStandIn> =>
  useMutation({ mutationFn: (standIn) => api<BenchSource>(`/bench/${runId}/stand-ins`, send(standIn)) });
export const useRevokeSource = (runId: string): UseMutationResult<void, Error, string> =>
  useMutation({ mutationFn: (id) => api<void>(`/bench/${runId}/sources/${id}`, { method: 'DELETE' }) });

/** Sends what a shell printed, as a source of its own: made once, however often it is tried. */
export function useShellText(runId: string): UseMutationResult<BatchTaken, Error, string> {
  const made = useRef<SourceWithKey | null>(null);
  return useMutation({
    mutationFn: async (text) => {
      made.current ??= await api<SourceWithKey>(
        `/bench/${runId}/sources`,
        send({ name: 'Text from the shell', kind: 'other' }),
      );
      return api<BatchTaken>('/live/shell?seq=0', {
        method: 'POST',
        headers: { authorization: `Bearer ${made.current.key}`, 'content-type': 'text/plain' },
        body: text,
      });
    },
  });
}
