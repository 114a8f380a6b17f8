import { useMutation, useQueryClient, type QueryKey, type UseMutationResult } from '@tanstack/react-query';
import { askAnew, askAnewExactly } from './askAnew';

/** Where things of a kind are kept among the answers of the server. */
export interface DocumentKeys {
  all: QueryKey;
  one: (id: string) => QueryKey;
}

/**
 * A change that answers with the thing as it is now: its page has it at once, the list is asked for anew.
 *
 * @param more `scope`: changes of that name are sent one after the other, each made to what the one before left; `also`: what else is asked for anew
 */
export function useDocumentMutation<D extends { id: string }, T>(
  keys: DocumentKeys,
  mutationFn: (input: T) => Promise<D>,
  { scope, also = [] }: { scope?: string; also?: QueryKey[] } = {},
): UseMutationResult<D, Error, T> {
  const client = useQueryClient();
  return useMutation({
    mutationFn,
    ...(scope === undefined ? {} : { scope: { id: scope } }),
    onSuccess: (changed) => {
      client.setQueryData(keys.one(changed.id), changed);
      void askAnewExactly(client, keys.all);
      void askAnew(client, ...also);
    },
  });
}

/** Deletes a thing, or brings it back. */
export type Removal = UseMutationResult<void, Error, { id: string; restore?: boolean }>;

export function useRemoval(
  { all }: Pick<DocumentKeys, 'all'>,
  remove: (id: string, restore: boolean) => Promise<void>,
): Removal {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ id, restore = false }) => remove(id, restore),
    onSuccess: () => askAnew(client, all),
  });
}
