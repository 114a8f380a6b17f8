import { requestOf, type AnswerOf, type Asked, type Route } from '@pace-check/contract';

/** A server that others reach asks who comes: whoever started it shows the key of this start. */
export const admitted = (): Record<string, string> =>
  process.env['PACE_START_KEY'] ? { 'x-pace-check-start': process.env['PACE_START_KEY'] } : {};

/** Asks a server by the table of its routes, as the app does. @throws Error with its answer where it refuses */
export async function ask<R extends Route>(address: string, route: R, asked: Asked<R>): Promise<AnswerOf<R>> {
  const { path, init } = requestOf(route, asked);
  const answer = await fetch(`${address}${path}`, { ...init, headers: { ...init.headers, ...admitted() } });
  if (!answer.ok) throw new Error(`${route.method} ${path} was refused: ${await answer.text()}`);
  return (answer.status === 204 ? undefined : await answer.json()) as AnswerOf<R>;
}
