import { ROUTES, type NewSynthetic, type SyntheticRecord } from '@pace-check/contract';
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

const ALL = ['synthetic'];

export const useSynthetic = (): UseQueryResult<SyntheticRecord[], Error> =>
  useQuery({
    queryKey: ALL,
    queryFn: ({ signal }) => ask(ROUTES.synthetic, {}, { signal }),
    staleTime: 0,
  });

export function useNewSynthetic(): UseMutationResult<SyntheticRecord, Error, NewSynthetic> {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body) => ask(ROUTES.newSynthetic, { body }),
    onSuccess: () => askAnew(client, ALL),
  });
}

export const useDeleteSynthetic = (): Removal =>
  useRemoval({ all: ALL }, (id, restore) =>
    ask(restore ? ROUTES.restoreSynthetic : ROUTES.deleteSynthetic, { params: { id } }),
  );
