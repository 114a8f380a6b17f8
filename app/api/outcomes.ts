import { ROUTES, type NewOutcomes, type Outcomes } from '@pace-check/contract';
import {
  useMutation,
  useQuery,
  useQueryClient,
  type UseMutationResult,
  type UseQueryResult,
} from '@tanstack/react-query';
import { askAnew } from './askAnew';
import { ask } from './client';
import { useRemoval, type Removal } from './documents';

const KEY = ['outcomes'];

export const useOutcomes = (): UseQueryResult<Outcomes, Error> =>
  useQuery({ queryKey: KEY, queryFn: ({ signal }) => ask(ROUTES.outcomes, {}, { signal }), staleTime: 0 });

/** Notes outcomes, claims and versions, all or none. */
export function useNoteOutcomes(): UseMutationResult<Outcomes, Error, NewOutcomes> {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body) => ask(ROUTES.noteOutcomes, { body }),
    // one after the other: thirty taps in a row
    scope: { id: 'outcomes' },
    onSuccess: (all) => client.setQueryData(KEY, all),
  });
}

export const useDeleteOutcome = (): Removal =>
  useRemoval({ all: KEY }, (id, restore) =>
    ask(restore ? ROUTES.restoreOutcome : ROUTES.deleteOutcome, { params: { id } }),
  );

export function useDeleteClaim(): UseMutationResult<void, Error, string> {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (id) => ask(ROUTES.deleteClaim, { params: { id } }),
    onSuccess: () => askAnew(client, KEY),
  });
}
