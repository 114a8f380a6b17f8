import * as z from 'zod';

/** A backup that the server keeps. */
export interface BackupFile {
  id: string;
  /** ISO 8601. */
  madeAt: string;
  bytes: number;
  /** Made by itself at night, and let go after a week; others stay. */
  nightly: boolean;
}

export interface Backups {
  /** Whether this server has a folder for them. */
  kept: boolean;
  /** One is made each night. */
  nightly: boolean;
  /** The latest first. */
  files: BackupFile[];
  /** The one that is being made, 0 to 1. */
  going: { share: number; doing: string } | null;
  /** Why the last one was not made; null where it was. */
  failed: string | null;
}

export const backupHabit = z.strictObject({ nightly: z.boolean() });
export type BackupHabit = z.infer<typeof backupHabit>;
