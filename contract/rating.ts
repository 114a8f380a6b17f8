import { RATING_PARTS, type RatingPart } from '@pace-check/core';
import * as z from 'zod';
import { measured, number } from './numbers';

/** A case of `pace rate`: devices with their parts, and weights. */

const partsOf = <T extends z.ZodType>(value: T) =>
  z.strictObject(
    Object.fromEntries(RATING_PARTS.map((part) => [part, value])) as Record<RatingPart, T>,
    `the parts are ${RATING_PARTS.join(', ')}`,
  );

const points = number('enter a number').min(0, 'at least 0').max(100, 'at most 100').nullable().optional();
const notNegative = measured('enter a number').min(0, 'at least 0');

export const ratingWeights = partsOf(notNegative).refine(
  (weights) => RATING_PARTS.some((part) => weights[part] > 0),
  'at least one weight must be above 0',
);

export const rateCase = z.object({
  devices: z
    .array(
      z.object({
        name: z.string('enter a name'),
        parts: partsOf(points),
        sd: partsOf(notNegative.nullable().optional()).nullable().optional(),
      }),
      'a list of devices is needed',
    )
    .min(1, 'at least one device'),
  weights: partsOf(notNegative.optional())
    .refine(
      (weights) => RATING_PARTS.some((part) => (weights[part] ?? 0) > 0),
      'at least one weight must be above 0',
    )
    .nullable()
    .optional(),
});
