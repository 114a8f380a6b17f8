import { lineTimeMs, type EntryLine } from '../runFile/lines';
import type { EndReason } from '../vocabulary';

/**
 * What a change does to a run that is recorded. The server applies it under
 * its lock, and every screen ahead of it, so that both come to the same.
 */

/** What was planned of a run, as far as its end goes. */
export interface EndPlan {
  minutes: number | null;
  /** At the planned end the run ends by itself. */
  endsItself: boolean;
}

/** A run that is recorded. @template P its whole plan */
export interface RecordedRun<P extends EndPlan = EndPlan> {
  status: 'ready' | 'running' | 'ended';
  /** ms since 1970. */
  startedMs: number | null;
  /** Times as fast as life; above 1 for practice. */
  speed: number;
  plan: P;
  end: { atMs: number; reason: EndReason } | null;
}

/** A line of it. */
export interface RecordedLine {
  id: string;
  line: EntryLine;
  /** A span that is still going on. */
  open: boolean;
  /** Id of the source that sent it; null where a person did. */
  source: string | null;
  /** Who wrote it first. */
  writer: string | null;
  takenBack: boolean;
}

/** What a person does to a run that is there. */
export type RunChange<P extends EndPlan = EndPlan> =
  | { kind: 'start'; at: number }
  | { kind: 'put'; entry: string; line: EntryLine; open: boolean; writer: string }
  | { kind: 'take-back'; entry: string }
  | { kind: 'plan'; plan: P }
  | { kind: 'end'; entry: string; atMs: number; reason: EndReason; writer: string | null };

/** The lines that a change may look at. */
export interface LinesOfRun {
  /** A line of the run, taken back or not. */
  line(id: string): RecordedLine | undefined;
  /** Spans that are going on. */
  openSpans(): RecordedLine[];
}

export interface Circumstances {
  /** ms since 1970, by the server's clock. */
  nowMs: number;
  /** Id of the line with which this run ends by itself: the same, whoever makes it. */
  plannedEnd: string;
}

/** Why a change cannot be made: the line was taken back, is not there, or the run has ended otherwise. */
export type ChangeRefused =
  { why: 'end-as-line' } | { why: 'taken-back' } | { why: 'no-line' } | { why: 'ended'; atMs: number };

export type Changed<P extends EndPlan> =
  | { refused: ChangeRefused }
  | {
      refused: null;
      run: RecordedRun<P>;
      /** Lines as they are now: those that changed alone. */
      lines: RecordedLine[];
    };

/** A start further from now is a clock that is wrong, ms. */
const START_WITHIN_MS = 24 * 3600 * 1000;
/** Two people who press the button at one moment mean one end, ms. */
const SAME_END_MS = 10_000;

/** The run's clock, ms; null before the start, the end's after it. */
export function runClockMs(
  { startedMs, speed, end }: Pick<RecordedRun, 'startedMs' | 'speed' | 'end'>,
  nowMs: number,
): number | null {
  return end?.atMs ?? (startedMs === null ? null : Math.max(0, (nowMs - startedMs) * speed));
}

/** Where a run that goes on ends by itself, ms on its clock; null where it does not. */
export const plannedEndMs = ({
  status,
  plan: { minutes, endsItself },
}: Pick<RecordedRun, 'status' | 'plan'>): number | null =>
  status === 'running' && endsItself && minutes !== null ? minutes * 60_000 : null;

/**
 * Makes a change. What was made before changes nothing: a change may be heard
 * twice, and two people may press one button.
 *
 * @returns the run and the lines that changed, or why it cannot be made
 * @source docs/formats.md, "The live protocol"
 * @example
 * const run = { status: 'ready', startedMs: null, speed: 1, plan: { minutes: 30, endsItself: false }, end: null };
 * const none = { line: () => undefined, openSpans: () => [] };
 * const changed = changeRun(run, none, { kind: 'start', at: 5000 }, { nowMs: 5100, plannedEnd: 'x' });
 * changed.refused === null && changed.run.startedMs; // 5000
 */
export function changeRun<P extends EndPlan>(
  run: RecordedRun<P>,
  lines: LinesOfRun,
  change: RunChange<P>,
  circumstances: Circumstances,
): Changed<P> {
  switch (change.kind) {
    case 'start':
      return start(run, change.at, circumstances.nowMs);
    case 'put':
      return put(run, lines, change);
    case 'take-back':
      return takeBack(run, lines, change.entry);
    case 'plan':
      return { refused: null, run: { ...run, plan: change.plan }, lines: [] };
    case 'end':
      return end(run, lines, change, circumstances);
  }
}

const nothing = <P extends EndPlan>(run: RecordedRun<P>): Changed<P> => ({ refused: null, run, lines: [] });

function start<P extends EndPlan>(run: RecordedRun<P>, at: number, nowMs: number): Changed<P> {
  // two people pressed it: the first one counts
  if (run.status !== 'ready') return nothing(run);
  const startedMs = at > nowMs || at < nowMs - START_WITHIN_MS ? nowMs : at;
  return { refused: null, run: { ...run, status: 'running', startedMs }, lines: [] };
}

function put<P extends EndPlan>(
  run: RecordedRun<P>,
  lines: LinesOfRun,
  { entry, line, open, writer }: Extract<RunChange<P>, { kind: 'put' }>,
): Changed<P> {
  // a run ends by its own change, which knows what follows from it
  if (line.type === 'end') return { refused: { why: 'end-as-line' } };
  const before = lines.line(entry);
  if (before?.takenBack) return { refused: { why: 'taken-back' } };
  const goesOn = open && line.type === 'span';
  return {
    refused: null,
    run,
    lines: [
      {
        id: entry,
        // nothing goes on in a run that has ended
        line: goesOn && run.end ? closed(line, run.end.atMs) : line,
        open: open && run.status !== 'ended',
        source: before?.source ?? null,
        writer: before ? before.writer : writer,
        takenBack: false,
      },
    ],
  };
}

function takeBack<P extends EndPlan>(run: RecordedRun<P>, lines: LinesOfRun, id: string): Changed<P> {
  const before = lines.line(id);
  // what a source sent is its own
  if (!before || before.source !== null) return { refused: { why: 'no-line' } };
  return before.takenBack
    ? nothing(run)
    : { refused: null, run, lines: [{ ...before, takenBack: true, open: false }] };
}

function end<P extends EndPlan>(
  run: RecordedRun<P>,
  lines: LinesOfRun,
  change: Extract<RunChange<P>, { kind: 'end' }>,
  circumstances: Circumstances,
): Changed<P> {
  if (!run.end) return ended(run, lines, change, circumstances.nowMs);
  const { atMs, reason } = run.end;
  // who ended it before it ended by itself was only heard late: that end takes the planned one's place
  const planned = lines.line(circumstances.plannedEnd);
  if (change.atMs < atMs && planned && !planned.takenBack && change.entry !== planned.id) {
    const again = ended(run, lines, change, circumstances.nowMs);
    return again.refused
      ? again
      : { ...again, lines: [{ ...planned, takenBack: true, open: false }, ...again.lines] };
  }
  const same =
    change.entry === circumstances.plannedEnd ||
    (change.reason === reason && Math.abs(change.atMs - atMs) <= SAME_END_MS * run.speed);
  return same ? nothing(run) : { refused: { why: 'ended', atMs } };
}

function ended<P extends EndPlan>(
  run: RecordedRun<P>,
  lines: LinesOfRun,
  { entry, atMs, reason, writer }: Extract<RunChange<P>, { kind: 'end' }>,
  nowMs: number,
): Changed<P> {
  const endMs = Math.min(atMs, runClockMs({ ...run, end: null }, nowMs) ?? 0);
  return {
    refused: null,
    run: { ...run, status: 'ended', end: { atMs: endMs, reason } },
    lines: [
      ...lines.openSpans().map((span) => ({ ...span, open: false, line: closed(span.line, endMs) })),
      {
        id: entry,
        line: { type: 'end', atMs: endMs, reason },
        open: false,
        source: null,
        writer,
        takenBack: false,
      },
    ],
  };
}

/** A span that went on, ended. */
const closed = (line: EntryLine, atMs: number): EntryLine =>
  line.type === 'span' ? { ...line, toMs: Math.max(line.fromMs, atMs) } : line;

/** All lines of a run in memory, to be looked at and changed. */
export class Lines implements LinesOfRun {
  private readonly byId: Map<string, RecordedLine>;

  constructor(lines: Iterable<RecordedLine>) {
    this.byId = new Map([...lines].map((line) => [line.id, line]));
  }

  line(id: string): RecordedLine | undefined {
    return this.byId.get(id);
  }
  openSpans(): RecordedLine[] {
    return this.all().filter(({ open, takenBack }) => open && !takenBack);
  }
  set(lines: RecordedLine[]): void {
    for (const line of lines) this.byId.set(line.id, line);
  }
  all(): RecordedLine[] {
    return [...this.byId.values()];
  }
  /** Those that were not taken back, in the order of their times. */
  standing(): RecordedLine[] {
    return this.all()
      .filter(({ takenBack }) => !takenBack)
      .sort((a, b) => lineTimeMs(a.line) - lineTimeMs(b.line));
  }
}
