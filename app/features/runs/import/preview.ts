import type { LogReading } from '@pace-check/contract';
import type { ColumnGuess, RefusalCode, RunHeader, TextLayout, UnreadableRow } from '@pace-check/core';

/** What the preview's worker is asked. */
export interface PreviewRequest {
  file: Blob;
  /** How the text is split, where the person has decided it. */
  given: Partial<Pick<TextLayout, 'delimiter' | 'decimalMark'>>;
  /** Which column is read, where the person has decided it. */
  choice: LogReading['choice'] | null;
}

/** How the file looks; null layout for a run file. */
export interface PreviewHead {
  layout: TextLayout | null;
  guesses: ColumnGuess[];
  choice: LogReading['choice'] | null;
}

/** What comes out when the file is read so. */
export interface PreviewFigures {
  header: RunHeader | null;
  frames: number;
  seconds: number;
  average: number | null;
  dropped: number;
  rows: UnreadableRow[];
  readings: number;
}

export interface PreviewRefusal {
  code: RefusalCode | 'unreadable';
  message: string;
  remedy: string;
  line: number | null;
  rows: UnreadableRow[];
}

/** What the worker says, in this order: progress now and then, the head, then figures or a refusal. */
export type PreviewMessage =
  { progress: number } | { head: PreviewHead } | { figures: PreviewFigures } | { refused: PreviewRefusal };
