import type { StressLoop } from '@pace-check/core';
import * as z from 'zod';
import { number } from './numbers';
import { name } from './names';
import { trimmed } from './text';

const celsius = number('enter a number')
  .min(-60, 'at least −60')
  .max(150, 'at most 150')
  .nullable()
  .default(null);
const score = number('enter a number').positive('above 0').max(1e9, 'at most 1,000,000,000');

/** A score of a synthetic benchmark: kept apart from runs, and in no rating. */
export const syntheticDoc = z.strictObject({
  device: name,
  tool: name,
  version: trimmed(80).default(''),
  /** One for each time it was run, in their order: a stress loop has many. */
  scores: z.array(score).min(1, 'enter a score').max(200, 'at most 200 repeats'),
  parts: z
    .array(z.strictObject({ name: trimmed(80).min(1, 'enter a name'), score }))
    .max(20, 'at most 20 parts')
    .default([]),
  /** Skin before it and after it, and the room. */
  coldC: celsius,
  hotC: celsius,
  roomC: celsius,
  date: z.iso.date('enter a date').nullable().default(null),
  note: trimmed(400).default(''),
});
export type SyntheticDoc = z.infer<typeof syntheticDoc>;

export const newSynthetic = z.strictObject({ id: z.uuid('an id of your own'), doc: syntheticDoc });
export type NewSynthetic = z.input<typeof newSynthetic>;

export interface SyntheticRecord {
  id: string;
  doc: SyntheticDoc;
  loop: StressLoop | null;
  /** From cold to hot, °C. */
  riseC: number | null;
  /** Why it is questioned; null where it is not. */
  question: string | null;
}
