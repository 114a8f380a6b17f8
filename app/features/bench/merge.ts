import { plannedEndId, type BenchChange, type BenchEntry, type Recording } from '@pace-check/contract';
import { changeRun, Lines, type RecordedRun } from '@pace-check/core';
import type { Waiting } from '../../outbox';

/** How far a line has come. */
export type Kept = 'here' | 'sent' | 'refused';

export interface ShownEntry extends BenchEntry {
  kept: Kept;
  /** Why it was refused. */
  refused: string | null;
  /** Its place in the outbox, to be dropped by. */
  n: number | null;
}

/** A run and its lines as they stand on a screen. */
export interface Merged {
  recording: Recording | null;
  entries: ShownEntry[];
}

const SENT = { kept: 'sent', refused: null, n: null } as const;

/**
 * A run as it stands on this screen: the server's word, and on top of it, by
 * the same rulebook, what was done here and is on its way or was taken a
 * moment ago.
 *
 * @param taken changes that the server has taken, but has not told of yet
 * @param nowMs by the server's clock, ms since 1970
 */
export function mergeRun(
  runId: string,
  server: { recording: Recording | null; entries: BenchEntry[] },
  taken: BenchChange[],
  waiting: Waiting<'bench'>[],
  nowMs: number,
): Merged {
  let { recording } = server;
  const lines = new Lines(server.entries);
  const kept = new Map<string, Pick<ShownEntry, 'kept' | 'refused' | 'n'>>();
  const make = (change: BenchChange, how: Pick<ShownEntry, 'kept' | 'refused' | 'n'>): void => {
    if (change.kind === 'open') {
      recording ??= opened(runId, change);
      return;
    }
    if (!recording) return;
    // the server will say why it is refused
    const made = changeRun(asRun(recording), lines, change, { nowMs, plannedEnd: plannedEndId(runId) });
    if (made.refused) return;
    recording = asRecording(recording, made.run);
    lines.set(made.lines);
    for (const { id } of made.lines) kept.set(id, how);
  };
  for (const change of taken) make(change, SENT);
  for (const { change, refused, n } of waiting) {
    if (refused === null) make(change, { kept: 'here', refused, n });
    else {
      const refusedLine = lineOf(change) ?? ('entry' in change ? lines.line(change.entry) : undefined);
      if (!refusedLine) continue;
      // it is shown as it was meant, with the reason, until it is dropped
      lines.set([refusedLine]);
      kept.set(refusedLine.id, { kept: 'refused', refused, n });
    }
  }
  return {
    recording,
    entries: lines.standing().map((line) => ({ ...line, ...(kept.get(line.id) ?? SENT) })),
  };
}

/** The line that a change would write. */
function lineOf(change: BenchChange): BenchEntry | undefined {
  if (change.kind !== 'put' && change.kind !== 'end') return undefined;
  const line =
    change.kind === 'put' ? change.line : { type: 'end' as const, atMs: change.atMs, reason: change.reason };
  return {
    id: change.entry,
    line,
    open: change.kind === 'put' && change.open,
    source: null,
    writer: change.writer,
    takenBack: false,
  };
}

const asRun = ({ status, startedAt, speed, plan, end }: Recording): RecordedRun<Recording['plan']> => ({
  status,
  startedMs: startedAt,
  speed,
  plan,
  end,
});

const asRecording = (
  recording: Recording,
  { status, startedMs, plan, end }: RecordedRun<Recording['plan']>,
): Recording => ({
  ...recording,
  status,
  startedAt: startedMs,
  plan,
  end,
  settled: recording.settled && end === recording.end,
});

function opened(
  runId: string,
  { facts, preflight, plan, speed, step }: Extract<BenchChange, { kind: 'open' }>,
): Recording {
  const { device, title, setup, target, refresh } = facts;
  return {
    runId,
    name: `${title} on ${device}`,
    device,
    title,
    setup,
    target,
    refresh,
    roomC: preflight.roomC ?? null,
    batteryWh: null,
    status: 'ready',
    startedAt: null,
    speed,
    plan,
    step,
    end: null,
    sources: [],
    used: [],
    settled: true,
  };
}
