import {
  ROUTES,
  type Against,
  type ComparisonChange,
  type ComparisonDetail,
  type ComparisonSummary,
  type NewComparison,
  type NewWeakValue,
  type RunStanding,
  type SpreadSummary,
} from '@pace-check/contract';
import type { LimitFindings, StandingScope } from '@pace-check/core';
import {
  useMutation,
  useQuery,
  useQueryClient,
  type UseMutationResult,
  type UseQueryResult,
} from '@tanstack/react-query';
import { askAnew } from './askAnew';
import { ask } from './client';
import { useDocumentMutation, useRemoval, type Removal } from './documents';

/** What is asked about comparisons; all of it changes with any run, so nothing of it is taken for fresh. */
const KEYS = {
  all: ['comparisons'],
  one: (id: string) => ['comparisons', id],
};

export const useComparisons = (): UseQueryResult<ComparisonSummary[], Error> =>
  useQuery({
    queryKey: KEYS.all,
    queryFn: ({ signal }) => ask(ROUTES.comparisons, {}, { signal }),
    staleTime: 0,
  });

export const useComparison = (id: string): UseQueryResult<ComparisonDetail, Error> =>
  useQuery({
    queryKey: KEYS.one(id),
    queryFn: ({ signal }) => ask(ROUTES.comparison, { params: { id } }, { signal }),
    staleTime: 0,
  });

export const useNewComparison = (): UseMutationResult<ComparisonDetail, Error, NewComparison> =>
  useDocumentMutation(KEYS, (body) => ask(ROUTES.newComparison, { body }));
export const useChangeComparison = (
  id: string,
): UseMutationResult<ComparisonDetail, Error, ComparisonChange> =>
  useDocumentMutation(KEYS, (body) => ask(ROUTES.changeComparison, { params: { id }, body }));

export const useDeleteComparison = (): Removal =>
  useRemoval(KEYS, (id, restore) =>
    ask(restore ? ROUTES.restoreComparison : ROUTES.deleteComparison, { params: { id } }),
  );

/** Comparisons that a run stands in. */
export const useComparisonsOfRun = (id: string): UseQueryResult<ComparisonSummary[], Error> =>
  useQuery({
    queryKey: ['comparisons', 'of', id],
    queryFn: ({ signal }) => ask(ROUTES.comparisonsOfRun, { params: { id } }, { signal }),
    staleTime: 0,
  });

export const useAgainst = (id: string): UseQueryResult<Against[], Error> =>
  useQuery({
    queryKey: ['against', id],
    queryFn: ({ signal }) => ask(ROUTES.against, { params: { id } }, { signal }),
    staleTime: 0,
  });

export const useLimits = (id: string): UseQueryResult<LimitFindings, Error> =>
  useQuery({
    queryKey: ['limits', id],
    queryFn: ({ signal }) => ask(ROUTES.limits, { params: { id } }, { signal }),
    staleTime: 0,
  });

export const useStanding = (id: string, scope: StandingScope): UseQueryResult<RunStanding, Error> =>
  useQuery({
    queryKey: ['standing', id, scope],
    queryFn: ({ signal }) => ask(ROUTES.standing, { params: { id }, query: { scope } }, { signal }),
    staleTime: 0,
  });

export const useSpread = (): UseQueryResult<SpreadSummary[], Error> =>
  useQuery({
    queryKey: ['spread'],
    queryFn: ({ signal }) => ask(ROUTES.spread, {}, { signal }),
    staleTime: 0,
  });

/** Weak values are shown in every comparison of their title. */
function useWeakMutation<T>(
  mutationFn: (input: T) => Promise<unknown>,
): UseMutationResult<unknown, Error, T> {
  const client = useQueryClient();
  return useMutation({ mutationFn, onSuccess: () => askAnew(client, KEYS.all) });
}
export const useAddWeakValue = (): UseMutationResult<unknown, Error, NewWeakValue> =>
  useWeakMutation((body) => ask(ROUTES.addWeakValue, { body }));
export const useDeleteWeakValue = (): UseMutationResult<unknown, Error, string> =>
  useWeakMutation((id) => ask(ROUTES.deleteWeakValue, { params: { id } }));
