import { LONGEST_RUN_MS } from '@pace-check/core';
import * as z from 'zod';
import { measured } from './numbers';

/** U+0000, which no database stores, and halves of surrogate pairs, which no UTF-8 holds. */
const UNSTORABLE = /[\0\p{Surrogate}]/u;
const SAYS =
  'the text contains a character that cannot be stored (U+0000 or half of a surrogate pair): remove it';

const most = (characters: number): string => `at most ${characters} characters`;

/** Text as it was given. */
export const text = (characters: number): z.ZodString =>
  z
    .string()
    .max(characters, most(characters))
    .refine((value) => !UNSTORABLE.test(value), SAYS);

/** Text without spaces around it; letters and their accents composed, so that what looks the same is the same. */
export const trimmed = (characters: number): z.ZodString =>
  z
    .string()
    .trim()
    .normalize('NFC')
    .max(characters, most(characters))
    .refine((value) => !UNSTORABLE.test(value), SAYS);

/** Milliseconds on a run's clock. */
export const runMs = measured()
  .min(0)
  .max(
    LONGEST_RUN_MS,
    'is more than 48 h after the start: use milliseconds from the start of the run, not since 1970',
  );

const FIRST_YEAR = 1970;
const LAST_YEAR = 2199;

/** A moment with its offset from UTC, in years that a calendar on a desk may show. */
export const moment = z.iso.datetime({ offset: true }).refine((value) => {
  const year = new Date(value).getUTCFullYear();
  return year >= FIRST_YEAR && year <= LAST_YEAR;
}, `enter a year from ${FIRST_YEAR} to ${LAST_YEAR}`);

/** The same in ms since 1970. */
export const momentMs = z
  .number('enter a time')
  .min(0, 'ms since 1970')
  .max(Date.UTC(LAST_YEAR + 1, 0), 'ms since 1970');
