import { randomBytes, randomInt, scrypt, timingSafeEqual } from 'node:crypto';
import { promisify } from 'node:util';
import { LEAST_PASSCODE, MOST_PASSCODE } from '@pace-check/contract';
import type { StoredPasscode } from '../sql/access';
import { Problem } from './problem';

/**
 * What one try costs: some 90 ms and 16 MB on a slow machine, so that a login
 * stays below 150 ms. Tries are limited besides (`tries`), and a passcode that
 * this program makes has 74 bits.
 */
const COST = { n: 2 ** 14, r: 8, p: 1 };
const SALT_BYTES = 16;
const HASH_BYTES = 32;
/** scrypt needs 128 n r bytes; a little more is let it have. */
const MOST_MEMORY = 256 * COST.n * COST.r;
/** Letters and digits that are not taken for one another, as a telephone types them. */
const LETTERS = 'abcdefghjkmnpqrstuvwxyz23456789';
const GROUPS = 3;
const GROUP = 5;

const derive = promisify<string, Buffer, number, { N: number; r: number; p: number; maxmem: number }, Buffer>(
  scrypt,
);

/** The same letters however a keyboard composes them. */
const plain = (passcode: string): string => passcode.normalize('NFKC').trim();

/** A passcode that nobody guesses. */
export function newPasscode(): string {
  const group = (): string =>
    Array.from({ length: GROUP }, () => LETTERS[randomInt(LETTERS.length)]).join('');
  return Array.from({ length: GROUPS }, group).join('-');
}

/** What is kept of a passcode. @throws Problem 422 for one that is too short or too long, or one sign again and again */
export async function hashPasscode(passcode: string): Promise<StoredPasscode> {
  const text = plain(passcode);
  const refuse = (message: string): never => {
    throw new Problem(422, {
      code: 'weak-passcode',
      field: 'passcode',
      message,
      remedy: `Use at least ${LEAST_PASSCODE} characters, for example several words. Leave it empty to get a generated passcode.`,
    });
  };
  if (text.length < LEAST_PASSCODE) refuse(`The passcode has only ${text.length} characters.`);
  if (text.length > MOST_PASSCODE) refuse(`The passcode has more than ${MOST_PASSCODE} characters.`);
  if (new Set(text).size < LEAST_SIGNS) refuse('The passcode uses too few different characters.');
  const salt = randomBytes(SALT_BYTES);
  return { salt, hash: await hash(text, salt, COST), ...COST };
}

/** Different signs that a passcode has at least. */
const LEAST_SIGNS = 5;

const hash = (text: string, salt: Buffer, { n, r, p }: typeof COST): Promise<Buffer> =>
  derive(text, salt, HASH_BYTES, { N: n, r, p, maxmem: MOST_MEMORY });

/** One at a time: a hundred who try at once take the memory of one. */
let turn: Promise<unknown> = Promise.resolve();

/** Whether this is the passcode. */
export function isPasscode(given: string, stored: StoredPasscode): Promise<boolean> {
  const right = turn.then(async () =>
    timingSafeEqual(await hash(plain(given).slice(0, MOST_PASSCODE), stored.salt, stored), stored.hash),
  );
  turn = right.catch(() => undefined);
  return right;
}
