import { ROUTES, type FiguresState } from '@pace-check/contract';
import { useQuery, type UseQueryResult } from '@tanstack/react-query';
import { ask } from './client';

/** While some are computed anew it is asked so often how far they are. */
const LOOK_AGAIN_MS = 2000;

/** How many runs have the figures of this version of the method. */
export const useFiguresState = (): UseQueryResult<FiguresState, Error> =>
  useQuery({
    queryKey: ['figures-state'],
    queryFn: ({ signal }) => ask(ROUTES.figuresState, {}, { signal }),
    staleTime: 0,
    refetchInterval: ({ state }) => ((state.data?.stale ?? 0) > 0 ? LOOK_AGAIN_MS : false),
  });
