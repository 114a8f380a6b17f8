import * as z from 'zod';

/** How everything is asked for, or brought in. */
export const everythingQuery = z.object({
  /** By which its progress is asked for. */
  job: z.uuid('an id of your own').optional(),
});

/** What became of the records of a kind that were brought in. */
export interface BroughtKind {
  /** For instance "runs". */
  what: string;
  added: number;
  /** Were there already; what is here stays. */
  there: number;
  /** Of those, such as say something else here, or have less that belongs to them. */
  differ: number;
}

/** Records that can be deleted and brought back, by their tables. */
export const RESTORABLE = [
  'run',
  'review',
  'ladder',
  'choice',
  'synthetic',
  'outcome',
  'card',
  'comparison',
] as const;
export type Restorable = (typeof RESTORABLE)[number];

/** A record that is stored and that no list shows, because it cannot be read. */
export interface Unreadable {
  table: Restorable;
  id: string;
  /** The field, and what is wrong with it. */
  reason: string;
}

export interface Brought {
  kinds: BroughtKind[];
  /** Came, and were deleted here: they stay deleted until somebody brings them back. */
  deletedHere: { table: Restorable; id: string; name: string }[];
}

/** `manifest.json` of everything. */
export const everythingManifest = z.object({
  format: z.literal('pace-check-everything'),
  version: z.number().int(),
  madeAt: z.iso.datetime(),
  migrations: z.array(z.string()),
  files: z.array(
    z.object({
      name: z.string(),
      bytes: z.number().int(),
      sha256: z.string().regex(/^[0-9a-f]{64}$/),
    }),
  ),
});
export type EverythingManifest = z.infer<typeof everythingManifest>;
