import { ROUTES, type PackProgress } from '@pace-check/contract';
import { useQuery } from '@tanstack/react-query';
import { ask } from './client';

/** How often it is asked how far something is, ms. */
const ASK_MS = 500;
const BEGUN: PackProgress = { done: 0, total: 0, at: 'beginning' };

/** How far something is that the server does for us. @param job its id; null where nothing is done */
export function useProgress(job: string | null): PackProgress | null {
  const progress = useQuery({
    queryKey: ['packs', job],
    queryFn: ({ signal }) => ask(ROUTES.packProgress, { params: { id: job! } }, { signal }),
    enabled: job !== null,
    refetchInterval: ({ state }) => (state.data?.at === 'done' ? false : ASK_MS),
    // not known yet in the first moment
    retry: false,
    gcTime: 0,
  });
  return job === null ? null : (progress.data ?? BEGUN);
}
