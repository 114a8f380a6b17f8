import * as z from 'zod';
import { notFound, Problem } from '../services/problem';

/** What was sent, as its schema has it. @throws Problem 400 that names the field */
export function parse<T>(schema: z.ZodType<T>, value: unknown): T {
  const result = schema.safeParse(value);
  if (result.success) return result.data;
  const issue = result.error.issues[0]!;
  const field = issue.path.join('.');
  throw new Problem(400, {
    code: 'bad-request',
    field,
    message: `${field === '' ? 'The request' : `Field “${field}”`}: ${issue.message}.`,
    remedy: 'Correct the field and send it again.',
  });
}

export function idOf(what: string, value: string | string[] | undefined): string {
  const result = z.uuid().safeParse(value);
  if (!result.success) throw notFound(what);
  return result.data;
}

/** One value of a query. */
export const queryText = (value: unknown): string | null =>
  typeof value === 'string' && value !== '' ? value : null;
