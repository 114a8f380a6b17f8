import type { LogReading, RunFactsInput } from '@pace-check/contract';
import type { EntryLine, FileRemains, RefusalCode, RunFacts, RunHeader, UnreadableRow } from '@pace-check/core';
import type { FrameChunk } from '../frames/chunkCodec';
import type { StoredAnalysis } from '../sql/analyses';

/** Read a file that was uploaded, and analyse it. */
export interface ReadTask {
  kind: 'read';
  path: string;
  reading: LogReading | null;
  facts: RunFactsInput | null;
}

/** Analyse a run that is stored. */
export interface AnalyseTask {
  kind: 'analyse';
  chunks: FrameChunk[];
  remains: FileRemains;
  facts: RunFacts;
}

/** A file that was read and analysed, ready to be stored. */
export interface ReadResult {
  header: RunHeader | null;
  chunks: FrameChunk[];
  entries: EntryLine[];
  rows: { total: number; unreadable: number; listed: UnreadableRow[] };
  passedOver: number;
  cutOff: boolean;
  contentSha256: string;
  analysis: StoredAnalysis;
}

/** A refusal as it crosses threads, where errors lose their class. */
export interface Refusal {
  code: RefusalCode;
  message: string;
  remedy: string;
  line: number | null;
  rows: UnreadableRow[];
}

export type ReadAnswer = { refused: Refusal } | { read: ReadResult };
