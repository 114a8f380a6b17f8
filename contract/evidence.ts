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
