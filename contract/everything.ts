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
  /** Of those, such as say something else here. */
  differ: number;
}

export interface Brought {
  kinds: BroughtKind[];
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
