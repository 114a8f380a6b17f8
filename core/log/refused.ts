import type { UnreadableRow } from '../frames/unreadable';

/** Why a file is refused as a whole. */
export type RefusalCode =
  | 'empty'
  | 'not-text'
  | 'not-a-log'
  | 'no-usable-column'
  | 'no-frames'
  | 'too-many-unreadable'
  | 'bad-line'
  | 'overlap'
  | 'too-large'
  | 'too-long'
  | 'too-many'
  | 'long-line'
  | 'broken-archive';

/**
 * A file that cannot become a run: says where, and what to do about it.
 * Nothing of a refused file is kept.
 */
export class LogRefused extends Error {
  override readonly name = 'LogRefused';

  constructor(
    readonly code: RefusalCode,
    message: string,
    /** What the person can do. */
    readonly remedy: string,
    /** Line of the file, from 1, where the trouble is in one place. */
    readonly line: number | null = null,
    /** The rows that could not be read, where that is the reason. */
    readonly rows: UnreadableRow[] = [],
  ) {
    super(message);
  }
}
