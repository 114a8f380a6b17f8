import * as z from 'zod';
import { LARGEST_PICTURE_BYTES } from './evidence';
import { newRun } from './http';
import { text } from './text';

/** A picture in JSON. */
const picture = z
  .base64('the picture is not valid base64')
  .min(1, 'a picture is needed')
  // four characters for three bytes
  .max((LARGEST_PICTURE_BYTES * 4) / 3 + 4, 'the picture is larger than 1 MB: reduce its size');

/**
 * What was done to a run without a recording: ids are the browser's own, sent
 * twice it is done once. The run itself has the id of its address.
 */
export const runChange = z.discriminatedUnion('kind', [
  z.strictObject({ id: z.uuid(), kind: z.literal('make'), run: newRun }),
  z.strictObject({
    id: z.uuid(),
    kind: z.literal('picture'),
    picture,
    entryId: z.uuid().nullable(),
    note: text(400),
  }),
]);
export type RunChangeInput = z.input<typeof runChange>;
