import { lazy, Suspense, type ComponentType } from 'react';
import { Loading } from '../ui/states';
import type * as screens from './screens';

type Screens = typeof screens;

/** Fetches the screens behind the list, for instance before they are asked for. */
export const fetchScreens = (): Promise<Screens> => import('./screens');

/** A screen that is fetched when it is first opened. @param pick the screen among all */
export function lazyScreen<P extends object>(pick: (screens: Screens) => ComponentType<P>): ComponentType<P> {
  const Screen = lazy(async () => ({ default: pick(await fetchScreens()) }));
  return function LazyScreen(props: P) {
    return (
      <Suspense fallback={<Loading rows={4} height={90} label="Loading the screen" />}>
        <Screen {...props} />
      </Suspense>
    );
  };
}
