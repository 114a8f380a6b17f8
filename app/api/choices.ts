import {
  ROUTES,
  type ChoiceChange,
  type ChoiceDetail,
  type ChoiceDoc,
  type ChoiceSummary,
  type NewChoice,
} from '@pace-check/contract';
import { useQuery, type UseMutationResult, type UseQueryResult } from '@tanstack/react-query';
import { ask } from './client';
import { useDocumentMutation, useRemoval, type Removal } from './documents';

const KEYS = { all: ['choices'], one: (id: string) => ['choices', id] };

export const useChoices = (): UseQueryResult<ChoiceSummary[], Error> =>
  useQuery({
    queryKey: KEYS.all,
    queryFn: ({ signal }) => ask(ROUTES.choices, {}, { signal }),
    staleTime: 0,
  });

export const useChoice = (id: string): UseQueryResult<ChoiceDetail, Error> =>
  useQuery({
    queryKey: KEYS.one(id),
    queryFn: ({ signal }) => ask(ROUTES.choice, { params: { id } }, { signal }),
    staleTime: 0,
  });

export const useNewChoice = (): UseMutationResult<ChoiceDetail, Error, NewChoice> =>
  useDocumentMutation(KEYS, (body) => ask(ROUTES.newChoice, { body }));

/** Keeps what was tried, made to the revision that was seen. */
export const useKeepChoice = (
  id: string,
): UseMutationResult<ChoiceDetail, Error, ChoiceChange & { doc: ChoiceDoc }> =>
  useDocumentMutation(KEYS, (body) => ask(ROUTES.changeChoice, { params: { id }, body }));

export const useDeleteChoice = (): Removal =>
  useRemoval(KEYS, (id, restore) =>
    ask(restore ? ROUTES.restoreChoice : ROUTES.deleteChoice, { params: { id } }),
  );
