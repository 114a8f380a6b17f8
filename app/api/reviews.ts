import {
  ROUTES,
  type NewReview,
  type ReviewDetail,
  type ReviewDoc,
  type ReviewSummary,
} from '@pace-check/contract';
import {
  useMutation,
  useQuery,
  useQueryClient,
  type UseMutationResult,
  type UseQueryResult,
} from '@tanstack/react-query';
import { ask } from './client';
import { useDocumentMutation, type DocumentKeys } from './documents';

const KEYS: DocumentKeys = { all: ['reviews'], one: (id) => ['reviews', id] };

export const useReviews = (): UseQueryResult<ReviewSummary[], Error> =>
  useQuery({
    queryKey: KEYS.all,
    queryFn: ({ signal }) => ask(ROUTES.reviews, {}, { signal }),
    staleTime: 0,
  });

export const useReview = (id: string): UseQueryResult<ReviewDetail, Error> =>
  useQuery({
    queryKey: KEYS.one(id),
    queryFn: ({ signal }) => ask(ROUTES.review, { params: { id } }, { signal }),
    staleTime: 0,
  });

export const useNewReview = (): UseMutationResult<ReviewDetail, Error, NewReview> =>
  useDocumentMutation(KEYS, (body) => ask(ROUTES.newReview, { body }));

/** Keeps what is written, made to the revision that was seen: another's change in between is not written over. */
export const useKeepReview = (
  id: string,
): UseMutationResult<ReviewDetail, Error, { revision: number; doc: ReviewDoc }> =>
  useDocumentMutation(KEYS, (body) => ask(ROUTES.changeReview, { params: { id }, body }), `review ${id}`);

export const usePublishReview = (id: string): UseMutationResult<ReviewDetail, Error, void> =>
  useDocumentMutation(KEYS, () => ask(ROUTES.publishReview, { params: { id } }), `review ${id}`);

export function useDeleteReview(): UseMutationResult<void, Error, { id: string; restore?: boolean }> {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ id, restore }) =>
      ask(restore ? ROUTES.restoreReview : ROUTES.deleteReview, { params: { id } }),
    onSuccess: () => client.invalidateQueries({ queryKey: KEYS.all }),
  });
}
