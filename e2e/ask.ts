import { requestOf, type AnswerOf, type Asked, type Route } from '@pace-check/contract';
import type { Page } from '@playwright/test';

/** Asks the page's server by the table of its routes, past the screen. @throws Error with its answer where it refuses */
export async function ask<R extends Route>(page: Page, route: R, asked: Asked<R>): Promise<AnswerOf<R>> {
  const { path, init } = requestOf(route, asked);
  const { body, ...options } = init;
  const answer = await page.request.fetch(path, {
    ...options,
    ...(body === undefined ? {} : { data: body }),
  });
  if (!answer.ok()) throw new Error(`${route.method} ${path} was refused: ${await answer.text()}`);
  return (answer.status() === 204 ? undefined : await answer.json()) as AnswerOf<R>;
}
