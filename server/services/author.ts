import { isDeepStrictEqual } from 'node:util';
import type { Queryable } from '../sql/database';
import { idsMadeBy, noteMadeBy } from '../sql/access';
import { Problem } from './problem';

/** Who changes something, as far as that matters: a reviewer may change everything, a helper adds, and changes what they added. */
export interface Author {
  mayAll: boolean;
  session: string | null;
}

/** Where nobody is asked who they are. */
export const ANYBODY: Author = { mayAll: true, session: null };

const notYours = (what: string): Problem =>
  new Problem(403, {
    code: 'not-yours',
    message: `${what} was added by somebody else.`,
    remedy: 'Nothing was changed. Ask the reviewer to change it; you can add to it.',
  });

/** Of these ids those that a helper added. */
async function ownOf(db: Queryable, { session }: Author, ids: string[]): Promise<Set<string>> {
  return new Set(session === null ? [] : await idsMadeBy(db, session, ids));
}

/** Remembers what a helper adds. */
export async function noteOwn(db: Queryable, { mayAll, session }: Author, ids: string[]): Promise<void> {
  if (!mayAll && session !== null) await noteMadeBy(db, session, ids);
}

/** @param there ids of records that are here already. @throws Problem 403 where a helper would change one of somebody else */
export async function refuseOthers(
  db: Queryable,
  author: Author,
  what: string,
  there: string[],
): Promise<void> {
  if (author.mayAll) return;
  const own = await ownOf(db, author, there);
  if (there.some((id) => !own.has(id))) throw notYours(what);
}

/** Ids that a list has now and had not. */
export const idsAdded = (before: { id: string }[], after: { id: string }[]): string[] =>
  after.map(({ id }) => id).filter((id) => !before.some((one) => one.id === id));

type Document = Record<string, unknown>;
type Item = string | { id?: string };

/**
 * A helper adds to the lists of a document, and takes away what they added;
 * all else of it stays as it was.
 *
 * @throws Problem 403 for more
 */
export async function refuseTakingAway(
  db: Queryable,
  author: Author,
  { before, after, lists, what }: { before: Document; after: Document; lists: string[]; what: string },
): Promise<void> {
  if (author.mayAll) return;
  const kept = (doc: Document): Document =>
    Object.fromEntries(Object.entries(doc).filter(([key]) => !lists.includes(key)));
  if (!isDeepStrictEqual(kept(before), kept(after))) throw notYours(what);
  for (const list of lists) {
    const now = after[list] as Item[];
    const gone = (before[list] as Item[]).filter((item) => !now.some((one) => isDeepStrictEqual(one, item)));
    const ids = gone.map((item) => (typeof item === 'string' ? '' : (item.id ?? '')));
    const own = await ownOf(db, author, ids.filter(Boolean));
    if (ids.some((id) => !own.has(id))) throw notYours(what);
  }
}
