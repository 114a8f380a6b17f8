import type { LogReading, RunFactsInput } from '@pace-check/contract';
import type {
  PartSpan,
  EntryLine,
  FileRemains,
  RefusalCode,
  RunFacts,
  RunHeader,
  SourceUse,
  UnreadableRow,
} from '@pace-check/core';
import type { FrameChunk } from '../frames/chunkCodec';
import type { KeptAnalysis } from '../sql/analyses';
import type { BatchRow } from '../sql/recordings';

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
  remains: Omit<FileRemains, 'entries'>;
  /** Its lines as JSON, some thousands a page. */
  pages: string[];
  /** The stretch of them that it is; null for all. */
  cut: PartSpan | null;
  facts: RunFacts;
}

/** Join what the sources of a recorded run sent. */
export interface JoinTask {
  kind: 'join';
  sources: { id: string; batches: BatchRow[] }[];
  entries: { id: string; line: EntryLine; source: string | null }[];
  endMs: number | null;
}

export interface JoinResult {
  chunks: FrameChunk[];
  rows: { total: number; unreadable: number; listed: UnreadableRow[] };
  /** Ids of lines that the figures leave aside. */
  unused: string[];
  used: SourceUse[];
  /** Many batches in one row; those that are packed already stay as they are. */
  packed: { sourceId: string; batch: BatchRow }[];
}

/** A file that was read and analysed, ready to be stored. */
export interface ReadResult {
  header: RunHeader | null;
  chunks: FrameChunk[];
  /** Its lines as the database takes them. */
  pages: string[];
  rows: { total: number; unreadable: number; listed: UnreadableRow[] };
  passedOver: number;
  cutOff: boolean;
  contentSha256: string;
  analysis: KeptAnalysis;
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

/** Pace of each second of a run that is stored; the rest as to analyse it. */
export interface SecondsTask extends Omit<AnalyseTask, 'kind'> {
  kind: 'seconds';
}

/** Draw an SVG picture as PNG. */
export interface DrawTask {
  kind: 'draw';
  svg: string;
  /** A larger transparent picture that it lies in, px; null for none. */
  on: { x: number; y: number; width: number; height: number } | null;
}

/** Tell the fonts of pictures as a style sheet. */
export interface FontsTask {
  kind: 'fonts';
}
