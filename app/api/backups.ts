import { pathOf, ROUTES, type Backups } from '@pace-check/contract';
import {
  useMutation,
  useQuery,
  useQueryClient,
  type UseMutationResult,
  type UseQueryResult,
} from '@tanstack/react-query';
import { ask } from './client';

const KEY = ['backups'];
/** While one is made it is asked so often how far it is. */
const LOOK_AGAIN_MS = 500;

export const useBackups = (): UseQueryResult<Backups, Error> =>
  useQuery({
    queryKey: KEY,
    queryFn: ({ signal }) => ask(ROUTES.backups, {}, { signal }),
    staleTime: 0,
    refetchInterval: ({ state }) => (state.data?.going ? LOOK_AGAIN_MS : false),
  });

/** Does something that answers with how it stands. */
function useBackupChange<T>(change: (input: T) => Promise<Backups>): UseMutationResult<Backups, Error, T> {
  const client = useQueryClient();
  return useMutation({ mutationFn: change, onSuccess: (now) => client.setQueryData(KEY, now) });
}

export const useMakeBackup = (): UseMutationResult<Backups, Error, void> =>
  useBackupChange(() => ask(ROUTES.makeBackup, {}));

export const useBackupHabit = (): UseMutationResult<Backups, Error, boolean> =>
  useBackupChange((nightly) => ask(ROUTES.backupHabit, { body: { nightly } }));

export const useDeleteBackup = (): UseMutationResult<Backups, Error, string> =>
  useBackupChange(async (id) => {
    await ask(ROUTES.deleteBackup, { params: { id } });
    return ask(ROUTES.backups, {});
  });

/** Where a browser saves one from. */
export const backupAddress = (id: string): string => `/api${pathOf(ROUTES.backupFile, { params: { id } })}`;
