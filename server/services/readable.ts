import {
  choiceDoc,
  claim,
  ladderDoc,
  outcome,
  reviewDoc,
  syntheticDoc,
  type Restorable,
} from '@pace-check/contract';
import type { Unreadable } from '@pace-check/contract';
import type pg from 'pg';
import type * as z from 'zod';
import { readAllDocs } from '../sql/documents';

/** How the document of each kind is read. */
const SCHEMAS = {
  ladder: ladderDoc,
  choice: choiceDoc,
  synthetic: syntheticDoc,
  review: reviewDoc,
  outcome,
} satisfies Partial<Record<Restorable, z.ZodType>>;

/** Those that can be read, as they are now; a list passes over the others (`unreadable` says which). */
export const onlyReadable = <R extends { doc: unknown }, D>(
  rows: R[],
  schema: z.ZodType<D>,
): (R & { doc: D })[] =>
  rows.flatMap((row) => {
    const read = schema.safeParse(row.doc);
    return read.success ? [{ ...row, doc: read.data }] : [];
  });

export const readableOutcomes = <T>(docs: T[]): T[] => docs.filter((doc) => outcome.safeParse(doc).success);
export const readableClaims = <T>(docs: T[]): T[] => docs.filter((doc) => claim.safeParse(doc).success);

/** What is wrong with a document, in words. */
function reasonOf({ code, path, message }: z.core.$ZodIssue): string {
  const field = path.length === 0 ? 'the record' : `“${path.join('.')}”`;
  return code === 'invalid_type' && message.endsWith('received undefined')
    ? `${field} is missing`
    : `${field} cannot be read: ${message}`;
}

/** Records that no list shows, because they cannot be read: what they are, and what is wrong with them. */
export async function unreadable(pool: pg.Pool): Promise<Unreadable[]> {
  const found: Unreadable[] = [];
  for (const table of Object.keys(SCHEMAS) as (keyof typeof SCHEMAS)[])
    for (const { id, doc } of await readAllDocs(pool, table)) {
      const read = SCHEMAS[table].safeParse(doc);
      if (read.success) continue;
      found.push({ table, id, reason: reasonOf(read.error.issues[0]!) });
    }
  return found;
}
