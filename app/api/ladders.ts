import {
  ROUTES,
  type LadderChange,
  type LadderDetail,
  type LadderDoc,
  type LadderSummary,
  type NewLadder,
} from '@pace-check/contract';
import {
  useMutation,
  useQuery,
  useQueryClient,
  type UseMutationResult,
  type UseQueryResult,
} from '@tanstack/react-query';
import { ask } from './client';

const KEYS = { all: ['ladders'], one: (id: string) => ['ladders', id] };

export const useLadders = (): UseQueryResult<LadderSummary[], Error> =>
  useQuery({
    queryKey: KEYS.all,
    queryFn: ({ signal }) => ask(ROUTES.ladders, {}, { signal }),
    staleTime: 0,
  });

export const useLadder = (id: string): UseQueryResult<LadderDetail, Error> =>
  useQuery({
    queryKey: KEYS.one(id),
    queryFn: ({ signal }) => ask(ROUTES.ladder, { params: { id } }, { signal }),
    staleTime: 0,
  });

/** A change that answers with the ladder as it is now. */
function useLadderMutation<T>(
  mutationFn: (input: T) => Promise<LadderDetail>,
): UseMutationResult<LadderDetail, Error, T> {
  const client = useQueryClient();
  return useMutation({
    mutationFn,
    onSuccess: (ladder) => {
      client.setQueryData(KEYS.one(ladder.id), ladder);
      void client.invalidateQueries({ queryKey: KEYS.all, exact: true });
    },
  });
}

export const useNewLadder = (): UseMutationResult<LadderDetail, Error, NewLadder> =>
  useLadderMutation((body) => ask(ROUTES.newLadder, { body }));

/** Keeps what was probed, made to the revision that was seen. */
export const useKeepLadder = (
  id: string,
): UseMutationResult<LadderDetail, Error, LadderChange & { doc: LadderDoc }> =>
  useLadderMutation((body) => ask(ROUTES.changeLadder, { params: { id }, body }));

export function useDeleteLadder(): UseMutationResult<void, Error, { id: string; restore?: boolean }> {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ id, restore }) =>
      ask(restore ? ROUTES.restoreLadder : ROUTES.deleteLadder, { params: { id } }),
    onSuccess: () => client.invalidateQueries({ queryKey: KEYS.all }),
  });
}
