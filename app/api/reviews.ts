import {
  ROUTES,
  type NewReview,
  type Publishing,
  type ReviewDetail,
  type ReviewDoc,
  type ReviewSummary,
  type ReviewVideoDetail,
} from '@pace-check/contract';
import { useQuery, type UseMutationResult, type UseQueryResult } from '@tanstack/react-query';
import { ask } from './client';
import { useDocumentMutation, useRemoval, type Removal } from './documents';

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

export const useNewReview = (): UseMutationResult<ReviewDetail, Error, NewReview> =>
  useDocumentMutation(KEYS, (body) => ask(ROUTES.newReview, { body }));

/** Keeps what is written, made to the revision that was seen: another's change in between is not written over. */
export const useKeepReview = (
  id: string,
): UseMutationResult<ReviewDetail, Error, { revision: number; doc: ReviewDoc }> =>
  useDocumentMutation(KEYS, (body) => ask(ROUTES.changeReview, { params: { id }, body }), {
    scope: `review ${id}`,
  });

/** Whether others may read what was published. */
export const useShowReview = (id: string): UseMutationResult<ReviewDetail, Error, boolean> =>
  useDocumentMutation(KEYS, (shown) => ask(ROUTES.showReview, { params: { id }, body: { shown } }), {
    scope: `review ${id}`,
  });

/** Publishes what is on the screen: the revision that was seen, once. */
export const usePublishReview = (id: string): UseMutationResult<ReviewDetail, Error, Publishing> =>
  useDocumentMutation(KEYS, (body) => ask(ROUTES.publishReview, { params: { id }, body }), {
    scope: `review ${id}`,
  });

export const useDeleteReview = (): Removal =>
  useRemoval(KEYS, (id, restore) =>
    ask(restore ? ROUTES.restoreReview : ROUTES.deleteReview, { params: { id } }),
  );
