import { useQuery } from '@tanstack/react-query';
import type { ComponentType } from 'react';
import { Failed, Loading } from '../ui/states';
import type * as screens from './screens';

type Screens = typeof screens;

/** Fetches the screens behind the list, for instance before they are asked for. */
export const fetchScreens = (): Promise<Screens> => import('./screens');

/**
 * A screen that is fetched when it is first opened; where it does not come,
 * that is said, and it can be tried again.
 *
 * @param pick the screen among all
 */
export function lazyScreen<P extends object>(
  pick: (screens: Screens) => ComponentType<P>,
  fetch = fetchScreens,
): ComponentType<P> {
  return function LazyScreen(props: P) {
    const { data, error, refetch } = useQuery({
      queryKey: ['screens'],
      queryFn: fetch,
      staleTime: Infinity,
      gcTime: Infinity,
      retry: false,
      networkMode: 'always',
      // components, not data
      structuralSharing: false,
    });
    if (data) {
      const Screen = pick(data);
      return <Screen {...props} />;
    }
    return error ? (
      <Failed error={NOT_FETCHED} retry={() => void refetch()} />
    ) : (
      <Loading rows={4} height={90} label="Loading" />
    );
  };
}

const NOT_FETCHED = new Error(
  'This part of the app is not stored in the browser, and the server does not answer. Try again when the server is back.',
);
