import {
  ROUTES,
  type LadderChange,
  type LadderDetail,
  type LadderDoc,
  type LadderSummary,
  type NewLadder,
  type NewLadders,
} from '@pace-check/contract';
import {
  useMutation,
  useQuery,
  useQueryClient,
  type UseMutationResult,
  type UseQueryResult,
} from '@tanstack/react-query';
import { ask } from './client';
import { useDocumentMutation, useRemoval, type Removal } from './documents';

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

export const useNewLadder = (): UseMutationResult<LadderDetail, Error, NewLadder> =>
  useDocumentMutation(KEYS, (body) => ask(ROUTES.newLadder, { body }));

/** One ladder a title: all are made, or none. */
export function useNewLadders(): UseMutationResult<LadderSummary[], Error, NewLadders> {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body) => ask(ROUTES.newLadders, { body }),
    onSuccess: (all) => client.setQueryData(KEYS.all, all),
  });
}

/** Keeps what was probed, made to the revision that was seen. */
export const useKeepLadder = (
  id: string,
): UseMutationResult<LadderDetail, Error, LadderChange & { doc: LadderDoc }> =>
  useDocumentMutation(KEYS, (body) => ask(ROUTES.changeLadder, { params: { id }, body }), {
    // steps of a card that it is climbed in take another time now
    also: [['cards'], ['card']],
  });

export const useDeleteLadder = (): Removal =>
  useRemoval(KEYS, (id, restore) =>
    ask(restore ? ROUTES.restoreLadder : ROUTES.deleteLadder, { params: { id } }),
  );
