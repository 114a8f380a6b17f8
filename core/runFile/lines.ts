import type { EndReason, Need, RateSource } from '../vocabulary';

/** The kinds of line in an open run file (docs/formats.md); the checks are in `contract`. */
export interface RunHeader {
  type: 'run';
  version: 1;
  id?: string;
  device?: string;
  title?: string;
  setup?: string;
  target?: number;
  refresh?: number;
  native?: number;
  need?: Need;
  room?: number;
  batteryWh?: number;
  conditions?: string[];
  startedAt?: string;
}

export interface FramesLine {
  type: 'frames';
  atMs: number;
  /** Frame times in µs; null where one is missing. */
  us: (number | null)[];
}

/** A line that says one thing at one time. */
export type EntryLine =
  | { type: 'skin'; atMs: number; spot: string; c: number; by: string }
  | { type: 'battery'; atMs: number; percent: number; charging?: boolean }
  | { type: 'power'; atMs: number; mw: number }
  | { type: 'load'; atMs: number; cpu?: number; gpu?: number; memoryMb?: number }
  | { type: 'refresh'; atMs: number; hz: number }
  | { type: 'rate'; atMs: number; fps: number; by: RateSource }
  | { type: 'mark'; atMs: number; kind: string; note?: string }
  | { type: 'span'; fromMs: number; toMs: number; kind: string }
  | { type: 'end'; atMs: number; reason: EndReason };

export type RunLine = RunHeader | FramesLine | EntryLine;

/** When a line happened, in ms on the run's clock: its start for a span. */
export const lineTimeMs = (line: EntryLine): number => (line.type === 'span' ? line.fromMs : line.atMs);
