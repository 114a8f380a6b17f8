import type { ImportDetails, Kit, RunCorrection, RunDetail, RunSummary } from '@pace-check/contract';
import { QueryClient, useMutation, useQuery, useQueryClient, type UseMutationResult, type UseQueryResult } from '@tanstack/react-query';
import { api, ApiFailure, upload, type UploadOptions } from './client';

/** The client's copy of what the server holds. */
export const queryClient = new QueryClient({
  defaultOptions: {
    // the server may be on this very machine: ask it, whatever the browser thinks of the network
    queries: { networkMode: 'always', retry: (count, error) => count < 1 && !(error instanceof ApiFailure && error.status >= 400), staleTime: 5_000 },
    mutations: { networkMode: 'always' },
  },
});

const KEYS = { runs: ['runs'], run: (id: string) => ['run', id], kit: ['kit'] };

export const useRuns = (): UseQueryResult<RunSummary[], Error> => useQuery({ queryKey: KEYS.runs, queryFn: () => api<RunSummary[]>('/runs') });
export const useRun = (id: string): UseQueryResult<RunDetail, Error> => useQuery({ queryKey: KEYS.run(id), queryFn: () => api<RunDetail>(`/runs/${id}`) });
export const useKit = (): UseQueryResult<Kit, Error> => useQuery({ queryKey: KEYS.kit, queryFn: () => api<Kit>('/kit') });

/** After a run changed: the lists that show it are asked for anew. */
function useRunChanged(): (run: RunDetail | null) => Promise<void> {
  const client = useQueryClient();
  return async (run) => {
    if (run) client.setQueryData(KEYS.run(run.id), run);
    await Promise.all([client.invalidateQueries({ queryKey: KEYS.runs }), client.invalidateQueries({ queryKey: KEYS.kit })]);
  };
}

export function useCorrectRun(id: string): UseMutationResult<RunDetail, Error, RunCorrection> {
  const changed = useRunChanged();
  return useMutation({
    mutationFn: (correction) => api<RunDetail>(`/runs/${id}`, { method: 'PATCH', headers: { 'content-type': 'application/json' }, body: JSON.stringify(correction) }),
    onSuccess: changed,
  });
}

export function useDeleteRun(): UseMutationResult<void, Error, string> {
  const changed = useRunChanged();
  return useMutation({ mutationFn: (id) => api<void>(`/runs/${id}`, { method: 'DELETE' }), onSuccess: () => changed(null) });
}

export function useRestoreRun(): UseMutationResult<void, Error, string> {
  const changed = useRunChanged();
  return useMutation({ mutationFn: (id) => api<void>(`/runs/${id}/restore`, { method: 'POST' }), onSuccess: () => changed(null) });
}

export interface ImportRequest extends UploadOptions {
  file: Blob;
  details: ImportDetails;
}

export function useImport(): UseMutationResult<RunDetail, Error, ImportRequest> {
  const changed = useRunChanged();
  return useMutation({
    mutationFn: ({ file, details, ...options }) => upload<RunDetail>(`/imports?details=${encodeURIComponent(JSON.stringify(details))}`, file, options),
    onSuccess: changed,
  });
}
