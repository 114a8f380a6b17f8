import { createHash, randomBytes } from 'node:crypto';
import type {
  BatchTaken,
  BenchSource,
  LivePace,
  LiveStatus,
  SourceKind,
  SourceWithKey,
} from '@pace-check/contract';
import {
  joinSpans,
  MOST_LINES,
  readShellText,
  runClockMs,
  type FramesLine,
  type RunHeader,
} from '@pace-check/core';
import type pg from 'pg';
import { v5 as uuidOf } from 'uuid';
import { framesText } from '../frames/batchCodec';
import { inTransaction, type Queryable } from '../sql/database';
import {
  insertBatch,
  insertSource,
  putEntries,
  readBatches,
  readDigest,
  readRecording,
  readSources,
  readSourcesOf,
  readSpans,
  revokeSource,
  sourceByKey,
  statusForBatch,
  updateRecording,
  updateSource,
  type PutEntry,
  type RecordingRow,
  type SourceRow,
} from '../sql/recordings';
import { fillRun, lockRun } from '../sql/runs';
import { checkLines, excludedSpans, LiveSource, timeOf } from './liveSource';
import { notFound, Problem } from './problem';
import { serverNow, wasSetBack } from './serverClock';

/** Batches of all sources that may wait to be stored. */
const MOST_WAITING = 400;
/** A line may be so far ahead of the run's clock. */
const AHEAD_MS = 5000;
/** A source's own clock that moves more than this against the run's was set. */
const CLOCK_SET_MS = 2000;
/** After the machine's clock was set back, a source may be so far ahead of ours: longer ago nobody was heard. */
const AHEAD_AFTER_SET_BACK_MS = 24 * 3600_000;
/** Sources of a run. */
const MOST_SOURCES = 24;
/** Bytes of a batch's digest. */
const DIGEST_BYTES = 16;
/** Figures of frames are told at most this often. */
const TELL_MS = 100;

export const hashOf = (key: string): string => createHash('sha256').update(key).digest('hex');

/** What a batch is known by: what it is written in, and its text. */
const digestOf = (form: string, text: string): Buffer =>
  createHash('sha256').update(form).update('\n').update(text).digest().subarray(0, DIGEST_BYTES);

interface LiveState {
  row: RecordingRow;
  sources: Map<string, LiveSource>;
}

/** What a screen that follows a run is told. */
export interface Listener {
  /** Lines or the recording changed: read what is new. */
  changed: () => void;
  pace: (pace: LivePace) => void;
}

/** Runs that are recorded, in memory: what their sources send goes to the database first, then to whoever listens. */
export class LiveRuns {
  private readonly states = new Map<string, Promise<LiveState>>();
  private readonly listeners = new Map<string, Set<Listener>>();
  private readonly turns = new Map<string, Promise<unknown>>();
  private readonly due = new Set<string>();
  private waiting = 0;
  /** Called when lines come for a run that has ended. */
  onLate: (runId: string) => void = () => undefined;

  constructor(private readonly pool: pg.Pool) {}

  listen(runId: string, listener: Listener): () => void {
    const all = this.listeners.get(runId) ?? new Set();
    this.listeners.set(runId, all.add(listener));
    return () => {
      all.delete(listener);
      if (all.size === 0) this.listeners.delete(runId);
    };
  }

  /** Tells of a change, and looks at spans and the recording anew. */
  async changed(runId: string): Promise<void> {
    const state = await this.states.get(runId)?.catch(() => null);
    if (state) {
      const row = await readRecording(this.pool, runId);
      if (!row) this.states.delete(runId);
      else {
        state.row = row;
        const spans = joinSpans(excludedSpans(await readSpans(this.pool, runId)));
        for (const source of state.sources.values()) source.exclude(spans);
        this.tellPace(runId);
      }
    }
    for (const listener of this.listeners.get(runId) ?? []) listener.changed();
  }

  /** A run that nobody records any more is let go. */
  forget(runId: string): void {
    this.states.delete(runId);
  }

  private state(runId: string): Promise<LiveState> {
    let state = this.states.get(runId);
    if (!state) {
      state = this.load(runId);
      this.states.set(runId, state);
      state.catch(() => this.states.delete(runId));
    }
    return state;
  }

  private async load(runId: string): Promise<LiveState> {
    const row = await readRecording(this.pool, runId);
    if (!row) throw notFound('recording');
    const spans = joinSpans(excludedSpans(await readSpans(this.pool, runId)));
    const sources = new Map<string, LiveSource>();
    for (const source of await readSources(this.pool, runId))
      sources.set(source.id, new LiveSource(source, await readBatches(this.pool, source.id), spans));
    return { row, sources };
  }

  /** The pace of the source with most frames. */
  async pace(runId: string): Promise<LivePace | null> {
    const { sources } = await this.state(runId);
    const main = [...sources.values()].reduce<LiveSource | null>(
      (most, source) => (most === null || source.row.frames > most.row.frames ? source : most),
      null,
    );
    return main?.pace() ?? null;
  }

  private tellPace(runId: string): void {
    if (this.due.has(runId) || !this.listeners.has(runId)) return;
    this.due.add(runId);
    setTimeout(() => {
      this.due.delete(runId);
      const listeners = this.listeners.get(runId);
      if (!listeners) return;
      void this.pace(runId).then(
        (pace) => pace && listeners.forEach((listener) => listener.pace(pace)),
        // told with the next batch
        () => undefined,
      );
    }, TELL_MS);
  }

  /** Sources of runs, by run. */
  async sources(runIds: string[]): Promise<Map<string, BenchSource[]>> {
    const sources = new Map<string, BenchSource[]>();
    for (const row of await readSourcesOf(this.pool, runIds)) {
      // the frames of a run that is over need not be in memory
      const held = (await this.states.get(row.runId))?.sources.get(row.id)?.held ?? 0;
      sources.set(row.runId, [...(sources.get(row.runId) ?? []), toBenchSource({ row, held })]);
    }
    return sources;
  }

  async addSource(runId: string, name: string, kind: SourceKind, standIn = false): Promise<SourceWithKey> {
    const key = randomBytes(24).toString('base64url');
    const state = await this.state(runId);
    const source = await inTransaction(this.pool, async (db) => {
      await readRecording(db, runId, true);
      if ((await readSources(db, runId)).length >= MOST_SOURCES)
        throw new Problem(409, {
          code: 'too-many-sources',
          message: `The run has ${MOST_SOURCES} sources already.`,
          remedy: 'Use one of them, or join what several loggers tell in one.',
        });
      const row = await insertSource(db, runId, { name, kind, standIn }, hashOf(key));
      await updateRecording(db, runId, {});
      return new LiveSource(row, [], []);
    });
    state.sources.set(source.row.id, source);
    await this.changed(runId);
    return { ...toBenchSource(source), key };
  }

  async revoke(runId: string, sourceId: string): Promise<void> {
    await inTransaction(this.pool, async (db) => {
      await readRecording(db, runId, true);
      if (!(await revokeSource(db, runId, sourceId))) throw notFound('source');
      await updateRecording(db, runId, {});
    });
    const source = (await this.state(runId)).sources.get(sourceId);
    if (source) source.row.revoked = true;
    await this.changed(runId);
  }

  private async sourceOf(key: string): Promise<{ state: LiveState; source: LiveSource }> {
    const row = await sourceByKey(this.pool, hashOf(key));
    if (!row)
      throw new Problem(401, {
        code: 'unknown-key',
        message: 'No source has this key.',
        remedy: 'Add the source at the bench of its run, and use the key that it shows.',
      });
    if (row.revoked)
      throw new Problem(403, {
        code: 'revoked',
        message: `The key of “${row.name}” was revoked.`,
        remedy: 'Add the source anew at the bench, and use its new key.',
      });
    const state = await this.state(row.runId);
    let source = state.sources.get(row.id);
    // the database knows best how far it is
    if (!source || source.row.next !== row.next) {
      source = new LiveSource(
        row,
        await readBatches(this.pool, row.id),
        joinSpans(excludedSpans(await readSpans(this.pool, row.runId))),
      );
      state.sources.set(row.id, source);
    }
    return { state, source };
  }

  async status(key: string): Promise<LiveStatus> {
    const { state, source } = await this.sourceOf(key);
    return statusOf(state.row, source.row);
  }

  /**
   * Takes a batch of lines: stored first, then acknowledged.
   *
   * @param at what the source's own clock shows, ms; null where its times are the run's
   * @param form what the batch is written in: lines of a run file, or what a shell printed
   */
  async take(
    key: string,
    seq: number,
    text: string,
    at: number | null,
    form: 'lines' | 'shell' = 'lines',
  ): Promise<BatchTaken> {
    if (this.waiting >= MOST_WAITING) throw tooFast('More batches come than can be stored.');
    const id = hashOf(key);
    this.waiting++;
    const turn = (this.turns.get(id) ?? Promise.resolve())
      .catch(() => undefined)
      .then(() => this.takeInTurn(key, seq, text, at, form));
    this.turns.set(id, turn);
    try {
      return await turn;
    } finally {
      this.waiting--;
      if (this.turns.get(id) === turn) this.turns.delete(id);
    }
  }

  private async takeInTurn(
    key: string,
    seq: number,
    text: string,
    at: number | null,
    form: 'lines' | 'shell',
  ): Promise<BatchTaken> {
    const { state, source } = await this.sourceOf(key);
    const { row } = source;
    const { runId, status } = state.row;
    const nothing = { taken: 0, passedOver: 0, refused: [], duplicate: true };
    if (status === 'ready')
      throw new Problem(425, {
        code: 'not-started',
        message: 'The run has not been started.',
        remedy: 'Wait a second and send the same batch again.',
      });
    const digest = digestOf(form, text);
    if (seq < row.next) {
      await this.refuseOther(runId, source, seq, digest);
      return { ...statusOf(state.row, row), ...nothing };
    }
    if (source.full && seq > row.next)
      throw tooFast(`Batch ${row.next} is missing, and ${source.held} after it wait.`);
    if (form === 'shell' && seq > row.next)
      throw new Problem(409, {
        code: 'out-of-turn',
        message: `Text is read in its order, and batch ${row.next} is missing.`,
        remedy: `Send batch ${row.next} first.`,
        next: row.next,
      });
    const before = structuredClone(row);
    try {
      const sorted =
        form === 'lines' ? this.sort(state, source, seq, text, at) : this.sortShell(state, source, seq, text);
      const stored = await inTransaction(this.pool, (db) => store(db, runId, source, seq, digest, sorted));
      if (stored === 'known') {
        Object.assign(row, before);
        // it is among those that wait for one before them
        state.sources.delete(row.id);
        await this.refuseOther(runId, source, seq, digest);
        return { ...statusOf(state.row, row), ...nothing };
      }
      if (stored === 'late' && (sorted.frames.length > 0 || sorted.entries.length > 0)) this.onLate(runId);
      if (sorted.entries.length > 0 || sorted.header || row.refused > before.refused)
        await this.changed(runId);
      this.tellPace(runId);
      return {
        ...statusOf(state.row, row),
        taken: sorted.taken,
        passedOver: sorted.passedOver,
        refused: sorted.refused,
        duplicate: false,
      };
    } catch (error) {
      // refused before anything was taken
      if (error instanceof Problem) Object.assign(row, before);
      // memory is ahead of the database: this source begins anew from what is stored
      else state.sources.delete(row.id);
      throw error;
    }
  }

  /**
   * A number that was stored before with the same content is a batch that was
   * sent twice. With other content it is another logger, or one that began anew.
   *
   * @throws Problem 409 with the number that is waited for
   */
  private async refuseOther(runId: string, source: LiveSource, seq: number, digest: Buffer): Promise<void> {
    const { row } = source;
    const known = await readDigest(this.pool, row.id, seq, DIGEST_BYTES);
    if (known === null || digest.equals(known)) return;
    if (row.refusals.at(-1)?.reason !== OTHER_CONTENT) {
      source.refuse(seq, 0, OTHER_CONTENT);
      await updateSource(this.pool, row);
      await inTransaction(this.pool, (db) => updateRecording(db, runId, {}));
      await this.changed(runId);
    }
    throw new Problem(409, {
      code: 'other-content',
      message: `Batch ${seq} of “${row.name}” is stored already, with other content.`,
      remedy: `A logger that begins anew, or a second one with the same key, sent it. Ask GET /api/live which number is next (now ${row.next}) and number on from there; give each logger a key of its own.`,
      next: row.next,
    });
  }

  /** Reads what a shell printed; what it does not understand is passed over. */
  private sortShell(state: LiveState, source: LiveSource, seq: number, text: string): Sorted {
    const { frames, entries, anchor, aside } = readShellText(text, runMs(state.row)!, source.row.anchor);
    source.row.anchor = anchor;
    const sorted = this.sort(
      state,
      source,
      seq,
      [...frames, ...entries].map((line) => JSON.stringify(line)).join('\n'),
      null,
    );
    return { ...sorted, passedOver: sorted.passedOver + aside.length };
  }

  /** Sorts a batch's lines into those that are taken and those that are refused, and counts the frames whose turn it is. */
  private sort(
    { row: recording }: LiveState,
    source: LiveSource,
    seq: number,
    text: string,
    at: number | null,
  ): Sorted {
    const { row } = source;
    const nowMs = runMs(recording)!;
    const limitMs = recording.end ? recording.end.atMs : nowMs + AHEAD_MS * recording.speed;
    row.heardMs = serverNow();
    if (
      at !== null &&
      (row.offsetMs === null || Math.abs(nowMs - at - row.offsetMs) > CLOCK_SET_MS * recording.speed)
    )
      row.offsetMs = Math.round(nowMs - at);
    const sorted: Sorted = { header: null, frames: [], entries: [], taken: 0, passedOver: 0, refused: [] };
    const refuse = (number: number, reason: string): void => {
      sorted.refused.push({ line: number, reason });
      // what comes after the end is no fault of the source
      if (recording.status !== 'ended') source.refuse(seq, number, reason);
    };
    const frames: { number: number; line: FramesLine }[] = [];
    for (const { number, line, reason } of checkLines(text, row.offsetMs ?? 0)) {
      if (reason !== null) refuse(number, reason);
      else if (line === null) sorted.passedOver++;
      else {
        const time = timeOf(line);
        if (
          time !== null &&
          time > limitMs &&
          recording.status !== 'ended' &&
          wasSetBack() &&
          time - nowMs <= AHEAD_AFTER_SET_BACK_MS * recording.speed
        )
          throw new Problem(429, {
            code: 'clock-behind',
            message:
              'The clock of the server’s machine was set back while it was away, and the batch lies ahead of it.',
            remedy:
              'Keep the batch and send it again until the clock has come that far; it takes about as long as the server was away.',
          });
        if (time !== null && time > limitMs)
          refuse(
            number,
            recording.status === 'ended'
              ? 'it lies after the end of the run'
              : `it lies ${Math.round((time - nowMs) / 1000)} s ahead of the run’s clock: the source’s clock may have been set`,
          );
        else if (line.type === 'run') sorted.header = line;
        else if (line.type === 'frames') frames.push({ number, line });
        else if (row.lines + sorted.entries.length >= MOST_LINES)
          refuse(
            number,
            `its source has told ${MOST_LINES.toLocaleString('en-GB')} lines, more than a run holds`,
          );
        else sorted.entries.push({ id: uuidOf(`${seq} ${number}`, row.id), line, sourceId: row.id });
        if (line.type === 'end') row.ended = line.reason;
      }
    }
    sorted.frames = frames.map(({ line }) => line);
    for (const { line, reason } of source.take(seq, sorted.frames, text.length))
      refuse(frames.find((one) => one.line === line)!.number, reason);
    sorted.taken =
      sorted.frames.length +
      sorted.entries.length +
      (sorted.header ? 1 : 0) -
      sorted.refused.filter(({ line }) => frames.some((one) => one.number === line)).length;
    row.lines += sorted.taken;
    return sorted;
  }
}

interface Sorted {
  header: RunHeader | null;
  frames: FramesLine[];
  entries: PutEntry[];
  taken: number;
  passedOver: number;
  refused: BatchTaken['refused'];
}

/** What the refusal of a second logger on one key is told as at the bench. */
const OTHER_CONTENT =
  'the same number came again with other content: a logger began anew, or two use this key';

/** @returns whether the batch was there already, or came when its run had ended: then it is joined once more */
async function store(
  db: Queryable,
  runId: string,
  { row }: LiveSource,
  seq: number,
  digest: Buffer,
  { header, frames, entries }: Sorted,
): Promise<'known' | 'in-time' | 'late'> {
  if (header) await lockRun(db, runId);
  // nobody ends the run while the batch is stored: it is in time, or it is late
  const status =
    entries.length > 0 || header
      ? (await readRecording(db, runId, true))?.status
      : await statusForBatch(db, runId);
  if (!(await insertBatch(db, row.id, seq, framesText(frames), digest))) return 'known';
  if (header) await fillRun(db, runId, header);
  await putEntries(db, runId, entries);
  if (status === 'ended') await updateRecording(db, runId, { settled: false });
  else if (header) await updateRecording(db, runId, {});
  await updateSource(db, row);
  return status === 'ended' ? 'late' : 'in-time';
}

const tooFast = (message: string): Problem =>
  new Problem(429, { code: 'slow-down', message, remedy: 'Keep the batch and send it again in a second.' });

/** The run's clock; null before the start. */
export const runMs = (row: RecordingRow): number | null => runClockMs(row, serverNow());

function statusOf(recording: RecordingRow, { next }: SourceRow): LiveStatus {
  return { status: recording.status, speed: recording.speed, runMs: runMs(recording), next };
}

function toBenchSource({ row, held }: Pick<LiveSource, 'row' | 'held'>): BenchSource {
  const { id, name, kind, standIn, revoked, ended, frames, lines, refused, refusals, heardMs } = row;
  return {
    id,
    name,
    kind,
    standIn,
    revoked,
    ended,
    frames,
    lines,
    refused,
    refusals,
    held,
    heardAt: heardMs,
  };
}
