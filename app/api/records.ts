import { ROUTES, type Restorable, type Unreadable } from '@pace-check/contract';
import {
  useMutation,
  useQuery,
  useQueryClient,
  type UseMutationResult,
  type UseQueryResult,
} from '@tanstack/react-query';
import { ask } from './client';

/** How a record of each kind is deleted, and brought back. */
const REMOVALS = {
  run: [ROUTES.deleteRun, ROUTES.restoreRun],
  review: [ROUTES.deleteReview, ROUTES.restoreReview],
  ladder: [ROUTES.deleteLadder, ROUTES.restoreLadder],
  choice: [ROUTES.deleteChoice, ROUTES.restoreChoice],
  synthetic: [ROUTES.deleteSynthetic, ROUTES.restoreSynthetic],
  outcome: [ROUTES.deleteOutcome, ROUTES.restoreOutcome],
  card: [ROUTES.deleteCard, ROUTES.restoreCard],
  comparison: [ROUTES.deleteComparison, ROUTES.restoreComparison],
} as const satisfies Record<Restorable, unknown>;

export interface RecordToRemove {
  table: Restorable;
  id: string;
}

/** Deletes records of any kind, or brings them back, one after the other; anything may be other then. */
export function useRecords(): UseMutationResult<
  void,
  Error,
  { records: RecordToRemove[]; restore: boolean }
> {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async ({ records, restore }) => {
      for (const { table, id } of records) await ask(REMOVALS[table][restore ? 1 : 0], { params: { id } });
    },
    onSettled: () => client.invalidateQueries(),
  });
}

/** Records that no list shows, because they cannot be read. */
export const useUnreadable = (): UseQueryResult<Unreadable[], Error> =>
  useQuery({
    queryKey: ['unreadable'],
    queryFn: ({ signal }) => ask(ROUTES.unreadable, {}, { signal }),
    staleTime: 0,
  });
