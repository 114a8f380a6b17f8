import * as z from 'zod';
import { newRun } from './http';
import { text } from './text';

/** Pictures that show what was read: of a run, or of one line of it. */

/** Bytes of a picture as it is kept. */
export const LARGEST_PICTURE_BYTES = 1024 * 1024;
/** Bytes of a picture as it may be chosen: it is made smaller before it is kept. */
export const LARGEST_CHOSEN_BYTES = 40 * 1024 * 1024;
/** Pixels of a picture as it may be chosen: more is no photo, but a file that is made to fill a memory. */
export const MOST_PIXELS = 120_000_000;
/** Longer side of a picture as it is kept, px. */
export const LONGEST_SIDE_PX = 1600;
/** Pictures of one run. */
export const MOST_PICTURES = 40;

export interface Evidence {
  id: string;
  /** The line that it shows; null for the run as a whole. */
  entryId: string | null;
  width: number;
  height: number;
  note: string;
  addedAt: string;
}

/** A picture in JSON. */
const picture = z
  .base64('it is no picture in base64')
  .min(1, 'a picture is needed')
  // four characters for three bytes
  .max((LARGEST_PICTURE_BYTES * 4) / 3 + 4, 'at most 1 MB: make it smaller first');

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
