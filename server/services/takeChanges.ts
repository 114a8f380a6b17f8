import type { ChangesTaken } from '@pace-check/contract';
import type * as z from 'zod';
import { serverNow } from './serverClock';
import { problemOf } from './faults';
import { Problem } from './problem';

/**
 * Makes changes, each by itself: one that is refused says why and does not
 * hold up the others. Any other failure ends it, and the sender tries again.
 */
export async function takeChanges<T extends { id: string }>(
  schema: z.ZodType<T>,
  changes: unknown[],
  make: (change: T) => Promise<void>,
): Promise<ChangesTaken> {
  const taken: ChangesTaken = { done: [], refused: [], now: 0 };
  for (const value of changes) {
    const parsed = schema.safeParse(value);
    const id = parsed.success ? parsed.data.id : idOf(value);
    try {
      if (!parsed.success) throw refusal(parsed.error.issues[0]!);
      await make(parsed.data);
      taken.done.push(id);
    } catch (error) {
      const problem = problemOf(error);
      // what may do better the next time ends it, and so does what nobody foresaw
      if (!problem || problem.status >= 500 || problem.status === 429) throw error;
      taken.refused.push({ id, reason: `${problem.body.message} ${problem.body.remedy}` });
    }
  }
  return { ...taken, now: serverNow() };
}

/** What a change that is none calls itself, to be told which it was. */
function idOf(value: unknown): string {
  const id = typeof value === 'object' && value !== null && 'id' in value ? value.id : null;
  return typeof id === 'string' ? id : '';
}

function refusal({ path, message }: { path: PropertyKey[]; message: string }): Problem {
  return new Problem(400, {
    code: 'bad-request',
    message: `The field “${path.join('.')}”: ${message}.`,
    remedy: 'Correct it and enter it again.',
  });
}
