import type { QueryClient, QueryKey } from '@tanstack/react-query';

/**
 * What stands under the keys is old: what a screen shows of it is asked for anew.
 * An answer that is on its way may be of before the change, so it is not waited
 * for; the client itself would take it for the new one where it is the first.
 *
 * @param keys every answer whose key begins so
 */
export const askAnew = (client: QueryClient, ...keys: QueryKey[]): Promise<void> =>
  askFor(client, keys, false);

/** The same for answers of exactly these keys. */
export const askAnewExactly = (client: QueryClient, ...keys: QueryKey[]): Promise<void> =>
  askFor(client, keys, true);

async function askFor(client: QueryClient, keys: QueryKey[], exact: boolean): Promise<void> {
  await Promise.all(
    keys.map(async (queryKey) => {
      await client.cancelQueries({ queryKey, exact, predicate: ({ state }) => state.data === undefined });
      await client.invalidateQueries({ queryKey, exact });
    }),
  );
}
