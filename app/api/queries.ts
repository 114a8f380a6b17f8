import type { ImportDetails, Kit, NewRun, RunCorrection, RunDetail, RunSummary, SpotPlace } from '@pace-check/contract';
import type { EntryLine } from '@pace-check/core';
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

const send = (method: string, body: unknown): RequestInit => ({ method, headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });

/** A change that answers with the run as it is now. */
function useRunMutation<T>(mutationFn: (input: T) => Promise<RunDetail>): UseMutationResult<RunDetail, Error, T> {
  return useMutation({ mutationFn, onSuccess: useRunChanged() });
}

export const useAddEntries = (id: string): UseMutationResult<RunDetail, Error, EntryLine[]> => useRunMutation((entries) => api(`/runs/${id}/entries`, send('POST', { entries })));
export const useDeleteEntry = (id: string): UseMutationResult<RunDetail, Error, string> => useRunMutation((entry) => api(`/runs/${id}/entries/${entry}`, { method: 'DELETE' }));
export const usePlaceSpots = (id: string): UseMutationResult<RunDetail, Error, SpotPlace[]> => useRunMutation((places) => api(`/runs/${id}/spots`, send('PUT', { places })));
export const useCreateRun = (): UseMutationResult<RunDetail, Error, NewRun> => useRunMutation((run) => api('/runs', send('POST', run)));

export const useCorrectRun = (id: string): UseMutationResult<RunDetail, Error, RunCorrection> => useRunMutation((correction) => api(`/runs/${id}`, send('PATCH', correction)));

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
