import * as z from 'zod';
import { number } from './numbers';
import { trimmed } from './text';

/** What every record has: a name, and where the skin of a device is read. */

/** A name as a person gives it: trimmed, composed, not empty, not endless. */
export const name = trimmed(120).min(1, 'enter a name');

export interface NamedItem {
  id: string;
  name: string;
}

/** Where a spot lies on a device, as shares of its width and height from the top left. */
export const spotPlace = z.object({
  spot: name,
  side: z.enum(['front', 'back']),
  x: number().min(0).max(1),
  y: number().min(0).max(1),
});
export type SpotPlace = z.infer<typeof spotPlace>;
export const spotPlaces = z.object({ places: z.array(spotPlace).max(60, 'at most 60 spots') });

/** A name that a file gives, as a person would have given it; null for one that is blank or endless. */
export const nameIn = (given: string | null | undefined): string | null => name.safeParse(given).data ?? null;
