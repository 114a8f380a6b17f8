import { clientsClaim } from 'workbox-core';
import { precacheAndRoute, matchPrecache, type PrecacheEntry } from 'workbox-precaching';
import { registerRoute } from 'workbox-routing';
import { CacheFirst, NetworkFirst } from 'workbox-strategies';
import { LAST_SEEN } from './lastSeenHeader';

declare const self: ServiceWorkerGlobalScope;
/** What the app consists of: put in by tools/build.ts. */
declare const APP_FILES: PrecacheEntry[];

/** A network that is gone may leave a request hanging. */
const PAGE_WITHIN_S = 4;

/**
 * Lets the app open while its server is away: its files are kept in the
 * browser, and of the answers those that the bench needs to begin a run. Where
 * the server answers, its word counts.
 */
void self.skipWaiting();
clientsClaim();
// a page by its address is asked for each time; only without an answer is it the kept one
precacheAndRoute(APP_FILES, { directoryIndex: '' });

const pages = new NetworkFirst({
  cacheName: 'pages',
  networkTimeoutSeconds: PAGE_WITHIN_S,
  plugins: [{ handlerDidError: () => matchPrecache('/index.html') }],
});
registerRoute(({ request }) => request.mode === 'navigate', pages);

registerRoute(
  ({ url, sameOrigin }) => sameOrigin && url.pathname.startsWith('/assets/'),
  new CacheFirst({ cacheName: 'assets' }),
);

const NEEDED = /^\/api\/(bench|cool-downs|kit|cards(\/[^.]*)?)$/;
/** An answer from the cache says so. */
const tellLastSeen = async (response: Response): Promise<Response> => {
  const headers = new Headers(response.headers);
  headers.set(LAST_SEEN, '1');
  return new Response(await response.blob(), { status: response.status, headers });
};
registerRoute(
  ({ url, sameOrigin }) => sameOrigin && NEEDED.test(url.pathname),
  new NetworkFirst({
    cacheName: 'answers',
    plugins: [
      {
        cachedResponseWillBeUsed: async ({ cachedResponse }) =>
          cachedResponse && tellLastSeen(cachedResponse),
      },
    ],
  }),
);
