import { useEffect } from 'react';
import { keepApp } from '../offline/keepApp';
import { fetchScreens } from './lazyScreen';

/** Who only looks at the list need not be sent the rest at once, ms. */
const LATER_MS = 15_000;

/**
 * Fetches what the bench needs while there is a network, so that it opens
 * without one: a service worker keeps it where the browser allows that, the
 * open page elsewhere.
 *
 * @param now somebody works here already
 */
export function useKeepApp(now: boolean): void {
  useEffect(() => {
    const keep = (): void => {
      keepApp();
      // fetched again when a screen is opened
      void fetchScreens().catch(() => undefined);
    };
    if (now) return keep();
    const timer = setTimeout(keep, LATER_MS);
    return () => clearTimeout(timer);
  }, [now]);
}
