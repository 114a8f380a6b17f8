/** Caches of the service worker that hold what was read of the server. */
const READ = ['answers', 'pages'];

/** Lets go of what was read here, for whoever uses the browser next. */
export async function forgetAnswers(): Promise<void> {
  // browsers keep them on the machine itself and over https alone
  if (!('caches' in globalThis)) return;
  await Promise.all(READ.map((name) => caches.delete(name)));
}
