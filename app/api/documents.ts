import { useMutation, useQueryClient, type UseMutationResult } from '@tanstack/react-query';

/** How the client knows the records of one kind: all of them, and one by its id. */
export interface DocumentKeys {
  all: string[];
  one: (id: string) => string[];
}

/**
 * A change that answers with the record as it is now: whoever shows it has it, and the list is asked for anew.
 *
 * @param scope changes of one name are sent one after the other
 */
export function useDocumentMutation<T, D extends { id: string }>(
  keys: DocumentKeys,
  mutationFn: (input: T) => Promise<D>,
  scope?: string,
): UseMutationResult<D, Error, T> {
  const client = useQueryClient();
  return useMutation({
    mutationFn,
    ...(scope === undefined ? {} : { scope: { id: scope } }),
    onSuccess: (record) => {
      client.setQueryData(keys.one(record.id), record);
      void client.invalidateQueries({ queryKey: keys.all, exact: true });
    },
  });
}
