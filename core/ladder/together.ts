import { atLeast } from '../numbers/threshold';
import { whatItTells } from './ladder';
import { siblingPrior } from './search';

/** A search among several that go over the same rungs, one a title. */
export interface OneOfMany {
  id: string;
  /** Rung to try next, from 1; null at the end. */
  next: number | null;
  posterior: readonly number[];
  /** When it was last probed, in any unit of time; null where it was not begun. */
  lastAt: number | null;
}

/**
 * What the searches of other titles say beforehand of one that was not begun:
 * the mean of what each of them shows by itself, smoothed.
 *
 * Each speaks by its own probes alone. What it has borrowed from others would
 * count twice.
 *
 * @param posteriors of those that were probed, each over the same rungs, from an even prior
 * @returns weights of none, the first rung and so on; null where nothing was probed
 * @shown a ladder over several titles
 * @source docs/method.md, "Ladders": the prior of a sibling; the mean of several is this program's
 */
export function borrowedPrior(posteriors: readonly (readonly number[])[]): number[] | null {
  const [first] = posteriors;
  if (!first) return null;
  return siblingPrior(
    first.map((_, k) => posteriors.reduce((sum, one) => sum + one[k]!, 0) / posteriors.length),
  );
}

/**
 * Which of several titles is probed next, and why: the one in the middle of its
 * search, since it is loaded; else another that was begun; else the one whose
 * next probe tells most, of equals the first.
 *
 * To end one title before the next is begun lets the next begin from more.
 *
 * @returns null where all have ended
 * @shown a ladder over several titles
 * @source docs/method.md, "Ladders"; the order is this program's
 */
export function nextOfMany<T extends OneOfMany>(
  searches: readonly T[],
): { one: T; why: 'loaded' | 'begun' | 'tells most' } | null {
  const open = searches.filter((one) => one.next !== null);
  const latest = searches.reduce<number | null>(
    (found, { lastAt }) => (lastAt !== null && (found === null || lastAt > found) ? lastAt : found),
    null,
  );
  const begun = open
    .filter((one) => one.lastAt !== null)
    .sort((a, b) => b.lastAt! - a.lastAt!)
    .at(0);
  if (begun) return { one: begun, why: begun.lastAt === latest ? 'loaded' : 'begun' };
  const [first, ...others] = open;
  if (!first) return null;
  const tells = ({ posterior, next }: T): number => whatItTells(posterior, next!);
  return {
    one: others.reduce((best, one) => (atLeast(tells(best), tells(one)) ? best : one), first),
    why: 'tells most',
  };
}
