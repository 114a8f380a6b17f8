import { readFile } from 'node:fs/promises';
import { text } from 'node:stream/consumers';
import type * as z from 'zod';
import { InputRefused } from './usage';

/**
 * A case of a command as JSON.
 *
 * @param file path, or "-" for standard input
 * @throws InputRefused where it is no JSON, or does not hold what it should
 */
export async function readCase<T>(file: string, schema: z.ZodType<T>): Promise<T> {
  const content = file === '-' ? await text(process.stdin) : await readFile(file, 'utf8');
  let parsed: unknown;
  try {
    parsed = JSON.parse(content);
  } catch (error) {
    throw new InputRefused(
      `The file is not valid JSON: ${error instanceof Error ? error.message : String(error)}`,
    );
  }
  const checked = schema.safeParse(parsed);
  if (checked.success) return checked.data;
  const issue = checked.error.issues[0]!;
  throw new InputRefused(`${issue.path.join('.') || 'the case'}: ${issue.message}`);
}
