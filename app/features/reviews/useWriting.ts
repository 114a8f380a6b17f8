import type { ReviewDetail, ReviewDoc } from '@pace-check/contract';
import { useKeepReview } from '../../api/reviews';
import { useDocument, type Writing as WritingOf } from '../../api/useDocument';

export type Writing = WritingOf<ReviewDoc>;

/** A review as it is being written. */
export const useWriting = (review: ReviewDetail): Writing => useDocument(review, useKeepReview(review.id));
