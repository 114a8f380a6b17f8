import {
  ROUTES,
  type NewReview,
  type ReviewDetail,
  type ReviewDoc,
  type ReviewSummary,
  type ReviewVideoDetail,
} from '@pace-check/contract';
import {
  useMutation,
  useQuery,
  useQueryClient,
  type UseMutationResult,
  type UseQueryResult,
} from '@tanstack/react-query';
import { ask } from './client';

const KEYS = { all: ['reviews'], one: (id: string) => ['reviews', id] };

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

/** What its video gives at a revision of it. */
export const useReviewVideo = (id: string, revision: number): UseQueryResult<ReviewVideoDetail, Error> =>
  useQuery({
    queryKey: [...KEYS.one(id), 'video', revision],
    queryFn: ({ signal }) => ask(ROUTES.reviewVideo, { params: { id } }, { signal }),
    // what was known stays while it is made anew
    placeholderData: (before) => before,
  });

/** A change that answers with the review as it is now. */
function useReviewMutation<T>(
  mutationFn: (input: T) => Promise<ReviewDetail>,
  scope?: string,
): UseMutationResult<ReviewDetail, Error, T> {
  const client = useQueryClient();
  return useMutation({
    mutationFn,
    // one after the other, each made to what the one before left
    ...(scope === undefined ? {} : { scope: { id: `review ${scope}` } }),
    onSuccess: (review) => {
      client.setQueryData(KEYS.one(review.id), review);
      void client.invalidateQueries({ queryKey: KEYS.all, exact: true });
    },
  });
}

export const useNewReview = (): UseMutationResult<ReviewDetail, Error, NewReview> =>
  useReviewMutation((body) => ask(ROUTES.newReview, { body }));

/** Keeps what is written, made to the revision that was seen: another's change in between is not written over. */
export const useKeepReview = (
  id: string,
): UseMutationResult<ReviewDetail, Error, { revision: number; doc: ReviewDoc }> =>
  useReviewMutation((body) => ask(ROUTES.changeReview, { params: { id }, body }), id);

/** Whether others may read what was published. */
export const useShowReview = (id: string): UseMutationResult<ReviewDetail, Error, boolean> =>
  useReviewMutation((shown) => ask(ROUTES.showReview, { params: { id }, body: { shown } }), id);

export const usePublishReview = (id: string): UseMutationResult<ReviewDetail, Error, void> =>
  useReviewMutation(() => ask(ROUTES.publishReview, { params: { id } }), id);

export function useDeleteReview(): UseMutationResult<void, Error, { id: string; restore?: boolean }> {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ id, restore }) =>
      ask(restore ? ROUTES.restoreReview : ROUTES.deleteReview, { params: { id } }),
    onSuccess: () => client.invalidateQueries({ queryKey: KEYS.all }),
  });
}
