import { isDeepStrictEqual } from 'node:util';
import { Problem } from './problem';

type Fields = Record<string, unknown>;

/**
 * What comes of two changes that were made to one thing at once: each field
 * that one of them changed is as that one has it. What both changed, each to
 * something else, is for a person to decide.
 *
 * @param base as it was when it was opened
 * @param mine as it is to be
 * @param theirs as it is by now
 */
export function threeWays<T extends Fields>(base: T, mine: T, theirs: T): { merged: T; clashes: string[] } {
  const merged: Fields = {};
  const clashes: string[] = [];
  for (const key of new Set([...Object.keys(theirs), ...Object.keys(mine)])) {
    const own = !isDeepStrictEqual(base[key], mine[key]);
    const other = !isDeepStrictEqual(base[key], theirs[key]);
    if (own && other && !isDeepStrictEqual(mine[key], theirs[key])) clashes.push(key);
    const value = own ? mine[key] : theirs[key];
    if (value !== undefined) merged[key] = value;
  }
  return { merged: merged as T, clashes };
}

/** @throws Problem 409 where two have changed the same to something else */
export function refuseClashes(clashes: string[]): void {
  if (clashes.length === 0) return;
  throw new Problem(409, {
    code: 'changed-meanwhile',
    message: `Changed elsewhere since it was opened here: ${clashes.join(', ')}.`,
    remedy: 'Nothing was stored. Copy what you typed there, load the page again, and decide which is right.',
  });
}
