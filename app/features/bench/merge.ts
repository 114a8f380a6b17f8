import type { BenchChange, BenchEntry, Recording } from '@pace-check/contract';
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

/**
 * The lines of a run as they stand on this screen: the server's, and on top of
 * them what was done here and is on its way, or was taken a moment ago.
 *
 * @param taken changes that the server has taken, but may not have told of yet
 */
export function mergeEntries(server: BenchEntry[], taken: BenchChange[], waiting: Waiting[]): ShownEntry[] {
  const entries = new Map<string, ShownEntry>(
    server.map((entry) => [entry.id, { ...entry, kept: 'sent', refused: null, n: null }]),
  );
  const apply = (change: BenchChange, kept: Kept, refused: string | null, n: number | null): void => {
    if (change.kind === 'put')
      entries.set(change.entry, {
        ...(entries.get(change.entry) ?? { takenBack: false, source: null }),
        id: change.entry,
        line: change.line,
        open: change.open,
        writer: change.writer,
        kept,
        refused,
        n,
      });
    if (change.kind === 'end')
      entries.set(change.entry, {
        id: change.entry,
        line: { type: 'end', atMs: change.atMs, reason: change.reason },
        open: false,
        source: null,
        writer: change.writer,
        takenBack: false,
        kept,
        refused,
        n,
      });
    const before = change.kind === 'take-back' ? entries.get(change.entry) : undefined;
    if (before) entries.set(before.id, { ...before, takenBack: refused === null, kept, refused, n });
  };
  const ended = server.some(({ line, takenBack }) => line.type === 'end' && !takenBack);
  // a run that somebody else has ended ends once
  for (const change of taken)
    if (!('entry' in change && entries.has(change.entry)) && !(change.kind === 'end' && ended))
      apply(change, 'sent', null, null);
  for (const { change, refused, n } of waiting)
    apply(change as unknown as BenchChange, refused === null ? 'here' : 'refused', refused, n);
  return [...entries.values()].filter((entry) => !entry.takenBack).sort((a, b) => timeOf(a) - timeOf(b));
}

const timeOf = ({ line }: BenchEntry): number => (line.type === 'span' ? line.fromMs : line.atMs);

/** A recording as this screen knows it: the server's, and what was done here and is on its way. */
export function mergeRecording(
  runId: string,
  server: Recording | null,
  changes: BenchChange[],
): Recording | null {
  let recording = server;
  for (const change of changes) {
    if (change.kind === 'open') recording ??= opened(runId, change);
    else if (!recording) continue;
    else if (change.kind === 'start' && recording.status === 'ready')
      recording = { ...recording, status: 'running', startedAt: change.at };
    else if (change.kind === 'end' && recording.status !== 'ended')
      recording = {
        ...recording,
        status: 'ended',
        end: { atMs: change.atMs, reason: change.reason },
        settled: false,
      };
    else if (change.kind === 'plan') recording = { ...recording, plan: change.plan };
  }
  return recording;
}

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
