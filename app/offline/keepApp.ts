/**
 * Lets the browser keep the app, so that it opens while its server is away.
 * Browsers do so on the machine itself and over https alone; elsewhere the app
 * works as long as its page stays open.
 */
export function keepApp(): void {
  if (process.env.NODE_ENV !== 'production' || !('serviceWorker' in navigator)) return;
  // a browser that keeps nothing is told of at the bench
  void navigator.serviceWorker.register('/serviceWorker.js').catch(() => undefined);
}
