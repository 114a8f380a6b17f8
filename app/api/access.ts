import { ROUTES, type JoinCode, type Me, type NewJoinCode, type Sessions } from '@pace-check/contract';
import {
  useMutation,
  useQuery,
  useQueryClient,
  type UseMutationResult,
  type UseQueryResult,
} from '@tanstack/react-query';
import { forgetAnswers } from '../offline/forget';
import { ask } from './client';

const KEYS = { me: ['me'], sessions: ['sessions'] };
/** Who is in may change any moment while somebody joins. */
const LOOK_AGAIN_MS = 4000;

/** Who looks. */
export const useMe = (): UseQueryResult<Me, Error> =>
  useQuery({
    queryKey: KEYS.me,
    queryFn: ({ signal }) => ask(ROUTES.me, {}, { signal }),
    staleTime: Infinity,
  });

/** Who is in. */
export const useSessions = (): UseQueryResult<Sessions, Error> =>
  useQuery({
    queryKey: KEYS.sessions,
    queryFn: ({ signal }) => ask(ROUTES.sessions, {}, { signal }),
    staleTime: 0,
    refetchInterval: LOOK_AGAIN_MS,
  });

export const useNewJoinCode = (): UseMutationResult<JoinCode, Error, NewJoinCode> =>
  useMutation({ mutationFn: (body) => ask(ROUTES.newJoinCode, { body }) });

export function useRevokeSession(): UseMutationResult<void, Error, string> {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (id) => ask(ROUTES.revokeSession, { params: { id } }),
    onSettled: () => client.invalidateQueries({ queryKey: KEYS.sessions }),
  });
}

/** Goes out: what this browser has read is forgotten, what waits to be sent stays. */
export const useLeave = (): UseMutationResult<void, Error, void> =>
  useMutation({
    mutationFn: () => ask(ROUTES.leave, {}),
    onSuccess: async () => {
      await forgetAnswers();
      globalThis.location.assign('/enter');
    },
  });
