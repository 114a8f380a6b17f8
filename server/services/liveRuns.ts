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
  type SpanUs,
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
  updateRecording,
  updateSource,
  type PutEntry,
  type RecordingRow,
  type SourceRow,
} from '../sql/recordings';
import { fillRun, lockRun } from '../sql/runs';
import { report } from './logs';
import type { Announcements, News } from './announcements';
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
/** Another process that has said that it follows a run is told of frames for so long. */
const FOLLOWED_MS = 8000;

export const hashOf = (key: string): string => createHash('sha256').update(key).digest('hex');

/** What a batch is written in: lines of a run file, or what a shell printed. */
type Form = 'lines' | 'shell';
type RunNews = Extract<News, { run: string }>;

/** What a batch is known by: what it is written in, and its text. */
const digestOf = (form: Form, text: string): Buffer =>
  createHash('sha256').update(form).update('\n').update(text).digest().subarray(0, DIGEST_BYTES);

/** What a screen that follows a run is told. */
export interface Listener {
  /** Lines or the recording changed: read what is new. */
  changed: () => void;
  pace: (pace: LivePace) => void;
}

/** Sources of a run, by id, as far as this process has followed them. */
type Followed = Map<string, LiveSource>;

/**
 * Runs that are recorded. What their sources send goes to the database first,
 * then to whoever listens. Any process may take any batch: a source is one
 * process's for the length of a transaction, and each follows in memory, from
 * what is stored, what others took.
 */
export class LiveRuns {
  private readonly followed = new Map<string, Followed>();
  private readonly listeners = new Map<string, Set<Listener>>();
  /** When another process said last that a screen of its own follows a run, ms of this process's clock. */
  private readonly followedElsewhere = new Map<string, number>();
  private readonly turns = new Map<string, Promise<unknown>>();
  private readonly due = new Set<string>();
  private waiting = 0;
  /** Called when lines come for a run that has ended. */
  onLate: (runId: string) => void = () => undefined;
  /** Called when the recording or a line of it changed, here or elsewhere. */
  onChanged: (runId: string) => void = () => undefined;

  constructor(
    private readonly pool: pg.Pool,
    private readonly announcements: Announcements,
  ) {}

  listen(runId: string, listener: Listener): () => void {
    const all = this.listeners.get(runId) ?? new Set();
    this.listeners.set(runId, all.add(listener));
    const tell = (): void => this.announcements.tell({ what: 'followed', run: runId });
    tell();
    const again = setInterval(tell, FOLLOWED_MS / 2);
    return () => {
      clearInterval(again);
      all.delete(listener);
      if (all.size === 0) this.listeners.delete(runId);
    };
  }

  /** Tells of a change, here and elsewhere. */
  async changed(runId: string): Promise<void> {
    this.announcements.tell({ what: 'changed', run: runId });
    await this.lookAnew(runId);
  }

  /** Has heard of another process's change, or of frames that it took. */
  heard({ what, run }: RunNews): void {
    if (what === 'frames') return this.showPace(run);
    if (what === 'followed') return void this.followedElsewhere.set(run, performance.now());
    this.onChanged(run);
    this.lookAnew(run).catch((error: unknown) => report(`A run was not checked: ${String(error)}`));
  }

  /** Something may have been missed: whoever listens looks anew. */
  async missed(): Promise<void> {
    for (const runId of new Set([...this.listeners.keys(), ...this.followed.keys()]))
      await this.lookAnew(runId);
  }

  /** Looks at spans and the recording anew, and has whoever listens do so. */
  private async lookAnew(runId: string): Promise<void> {
    const sources = this.followed.get(runId);
    if (sources || this.listeners.has(runId)) {
      const row = await readRecording(this.pool, runId);
      if (!row || (row.status === 'ended' && row.settled)) this.followed.delete(runId);
      else if (sources) {
        const spans = await this.excluded(this.pool, runId);
        for (const source of sources.values()) source.exclude(spans);
      }
      if (row?.status === 'running') this.showPace(runId);
    }
    for (const listener of this.listeners.get(runId) ?? []) listener.changed();
  }

  /** Runs that are none of these are let go. */
  keepOnly(runIds: string[]): void {
    for (const runId of this.followed.keys()) if (!runIds.includes(runId)) this.followed.delete(runId);
    for (const [runId, at] of this.followedElsewhere)
      if (performance.now() - at > FOLLOWED_MS) this.followedElsewhere.delete(runId);
  }

  private sourcesOf(runId: string): Followed {
    const sources = this.followed.get(runId) ?? new Map<string, LiveSource>();
    this.followed.set(runId, sources);
    return sources;
  }

  private async excluded(db: Queryable, runId: string): Promise<SpanUs[]> {
    return joinSpans(excludedSpans(await readSpans(db, runId)));
  }

  /** A source in memory, as `row` has it. */
  private async upTo(db: Queryable, row: SourceRow): Promise<LiveSource> {
    const sources = this.sourcesOf(row.runId);
    const known = sources.get(row.id);
    if (known && known.row.fence >= row.fence) return known;
    const from = known?.row.next ?? 0;
    const batches = await readBatches(db, row, from);
    // somebody in this process may have been as far meanwhile
    const now = sources.get(row.id);
    if (now && now.row.fence >= row.fence) return now;
    if (now && now === known && now.row.next === from && now.catchUp(row, batches)) return now;
    const anew = new LiveSource(
      row,
      from === 0 ? batches : await readBatches(db, row),
      await this.excluded(db, row.runId),
    );
    sources.set(row.id, anew);
    return anew;
  }

  /** The pace of the source with most frames. */
  async pace(runId: string): Promise<LivePace | null> {
    const rows = await readSources(this.pool, runId);
    const main = rows.reduce<SourceRow | null>(
      (most, row) => (row.frames > (most?.frames ?? 0) ? row : most),
      null,
    );
    return main && (await this.upTo(this.pool, main)).pace();
  }

  /** Frames came: whoever listens here is told the pace, and the other processes that there is a new one. */
  private tellPace(runId: string): void {
    this.showPace(runId);
    const followed = this.followedElsewhere.get(runId);
    if (followed !== undefined && performance.now() - followed < FOLLOWED_MS)
      this.soon(`${runId} elsewhere`, () => this.announcements.tell({ what: 'frames', run: runId }));
  }

  private showPace(runId: string): void {
    if (!this.listeners.has(runId)) return;
    this.soon(runId, () => {
      const listeners = this.listeners.get(runId);
      if (!listeners) return;
      void this.pace(runId).then(
        (pace) => pace && listeners.forEach((listener) => listener.pace(pace)),
        // told with the next batch
        () => undefined,
      );
    });
  }

  /** Does what may come often only now and then. */
  private soon(name: string, work: () => void): void {
    if (this.due.has(name)) return;
    this.due.add(name);
    setTimeout(() => {
      this.due.delete(name);
      work();
    }, TELL_MS);
  }

  /** Sources of runs, by run. */
  async sources(runIds: string[]): Promise<Map<string, BenchSource[]>> {
    const sources = new Map<string, BenchSource[]>();
    for (const row of await readSourcesOf(this.pool, runIds))
      sources.set(row.runId, [...(sources.get(row.runId) ?? []), toBenchSource(row)]);
    return sources;
  }

  /** @param by the session that adds it, with which its key ends; null where nobody is asked who they are */
  async addSource(
    runId: string,
    { name, kind, standIn = false }: { name: string; kind: SourceKind; standIn?: boolean },
    by: string | null = null,
  ): Promise<SourceWithKey> {
    const key = randomBytes(24).toString('base64url');
    const source = await inTransaction(this.pool, async (db) => {
      if (!(await readRecording(db, runId, 'change'))) throw notFound('recording');
      if ((await readSources(db, runId)).length >= MOST_SOURCES)
        throw new Problem(409, {
          code: 'too-many-sources',
          message: `The run already has ${MOST_SOURCES} loggers.`,
          remedy: 'Use one of them, or combine several loggers into one.',
        });
      const row = await insertSource(db, runId, { name, kind, standIn }, hashOf(key), by);
      await updateRecording(db, runId, {});
      return row;
    });
    await this.changed(runId);
    return { ...toBenchSource({ ...source, held: 0 }), key };
  }

  async revoke(runId: string, sourceId: string): Promise<void> {
    await inTransaction(this.pool, async (db) => {
      // as with a batch: the source first, then its recording
      if (!(await revokeSource(db, runId, sourceId))) throw notFound('source');
      await readRecording(db, runId, 'change');
      await updateRecording(db, runId, {});
    });
    await this.changed(runId);
  }

  async status(key: string): Promise<LiveStatus> {
    const row = admitted(await sourceByKey(this.pool, hashOf(key)));
    return statusOf((await readRecording(this.pool, row.runId)) ?? gone(), row);
  }

  /**
   * Takes a batch of lines: stored first, then acknowledged.
   *
   * @param at what the source's own clock shows, ms; null where its times are the run's
   */
  async take(
    key: string,
    seq: number,
    text: string,
    at: number | null,
    form: Form = 'lines',
  ): Promise<BatchTaken> {
    if (this.waiting >= MOST_WAITING) throw tooFast('Batches arrive faster than they can be stored.');
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
    form: Form,
  ): Promise<BatchTaken> {
    const id = hashOf(key);
    const batch = { seq, text, at, form, digest: digestOf(form, text) };
    const taken = await inTransaction(this.pool, (db) => this.takeOwned(db, id, batch));
    const { source, recording, changed } = taken;
    const { runId } = source.row;
    if (taken.stored) {
      // a look at its pace may have followed further meanwhile
      source.row.fence = Math.max(source.row.fence, taken.fence);
      source.storing = false;
    }
    if (recording.status === 'ended' && taken.sorted.frames.length + taken.sorted.entries.length > 0)
      this.onLate(runId);
    // one that was stored before may not have been told of
    if (changed) await this.changed(runId);
    this.tellPace(runId);
    if (taken.otherContent) throw otherContent(source.row, seq);
    const { taken: lines, passedOver, refused } = taken.sorted;
    return {
      ...statusOf(recording, source.row),
      taken: lines,
      passedOver,
      refused,
      duplicate: !taken.stored,
    };
  }

  /** Takes a batch while the source is this transaction's, and nobody else's. */
  private async takeOwned(db: Queryable, id: string, batch: Batch): Promise<Taken> {
    const { seq, text, form, digest } = batch;
    const row = admitted(await sourceByKey(db, id, true));
    const { runId } = row;
    // nobody ends the run while the batch is stored: it is in time, or it is late
    const needs = locksFor(batch);
    if (needs.run) await lockRun(db, runId);
    const recording = (await readRecording(db, runId, needs.change ? 'change' : 'share')) ?? gone();
    if (recording.status === 'ready')
      throw new Problem(425, {
        code: 'not-started',
        message: 'The run has not been started.',
        remedy: 'Start the run, then send the same batch again.',
      });
    const sources = this.sourcesOf(runId);
    // one that a failure has left ahead of the database begins anew
    if (sources.get(row.id)?.storing) sources.delete(row.id);
    const source = await this.upTo(db, row);
    const asBefore = {
      source,
      recording,
      fence: row.fence,
      sorted: NOTHING,
      stored: false,
      otherContent: false,
      changed: needs.run || needs.change,
    };
    if (seq < source.row.next || source.holds(seq)) {
      const before = await readDigest(db, row, seq, DIGEST_BYTES);
      if (before === null || digest.equals(before)) return asBefore;
      if (row.refusals.at(-1)?.reason !== OTHER_CONTENT) {
        source.refuse(seq, 0, OTHER_CONTENT);
        // what is in memory is made anew from what is stored
        sources.delete(row.id);
        await keep(db, source.row);
        await updateRecording(db, runId, {});
      }
      return { ...asBefore, otherContent: true, changed: true };
    }
    if (source.full && seq > source.row.next)
      throw tooFast(`Batch ${source.row.next} is missing; ${source.held} later batches are waiting for it.`);
    if (form === 'shell' && seq > source.row.next)
      throw new Problem(409, {
        code: 'out-of-turn',
        message: `Shell output must arrive in order, and batch ${source.row.next} is missing.`,
        remedy: `Send batch ${source.row.next} first.`,
        next: source.row.next,
      });
    const before = structuredClone(source.row);
    source.storing = true;
    try {
      const sorted =
        form === 'lines'
          ? this.sort(recording, source, seq, text, batch.at)
          : this.sortShell(recording, source, seq, text);
      await store(db, recording, source.row, seq, digest, sorted);
      const changed =
        sorted.entries.length > 0 || sorted.header !== null || source.row.refused > before.refused;
      return { ...asBefore, fence: row.fence + 1, sorted, stored: true, changed };
    } catch (error) {
      // refused before anything was taken
      if (error instanceof Problem) {
        Object.assign(source.row, before);
        source.storing = false;
      }
      throw error;
    }
  }

  /** Reads what a shell printed; what it does not understand is passed over. */
  private sortShell(recording: RecordingRow, source: LiveSource, seq: number, text: string): Sorted {
    const { frames, entries, anchor, aside } = readShellText(text, runMs(recording)!, source.row.anchor);
    source.row.anchor = anchor;
    const sorted = this.sort(
      recording,
      source,
      seq,
      [...frames, ...entries].map((line) => JSON.stringify(line)).join('\n'),
      null,
    );
    return { ...sorted, passedOver: sorted.passedOver + aside.length };
  }

  /** Sorts a batch's lines into those that are taken and those that are refused, and counts the frames whose turn it is. */
  private sort(
    recording: RecordingRow,
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
            message: 'The server’s clock was set back, so the time of this batch is in the future.',
            remedy:
              'Keep the batch and send it again later; the wait is about as long as the server was off.',
          });
        if (time !== null && time > limitMs)
          refuse(
            number,
            recording.status === 'ended'
              ? 'it is after the end of the run'
              : `it is ${Math.round((time - nowMs) / 1000)} s ahead of the run’s clock; the logger’s clock may have changed`,
          );
        else if (line.type === 'run') sorted.header = line;
        else if (line.type === 'frames') frames.push({ number, line });
        else if (row.lines + sorted.entries.length >= MOST_LINES)
          refuse(
            number,
            `the logger sent more than ${MOST_LINES.toLocaleString('en-GB')} lines, the limit for a run`,
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
  'this number was used before with other content: a logger was restarted, or two loggers use this key';

interface Batch {
  seq: number;
  text: string;
  at: number | null;
  form: Form;
  digest: Buffer;
}

/** What became of a batch. */
interface Taken {
  source: LiveSource;
  recording: RecordingRow;
  /** Of the source, when this is committed. */
  fence: number;
  sorted: Sorted;
  /** False where it had been stored before. */
  stored: boolean;
  /** Something else was stored under its number. */
  otherContent: boolean;
  /** Lines or what is told of the source changed, or may have. */
  changed: boolean;
}

const NOTHING: Sorted = { header: null, frames: [], entries: [], taken: 0, passedOver: 0, refused: [] };

/**
 * What a batch will change beside its source, so that all that is needed is
 * locked in the order in which everybody locks. A text that hides its lines
 * from this look is locked later, and begins once more where that collides.
 */
const locksFor = ({ form, text }: Batch): { run: boolean; change: boolean } => ({
  run: /"type"\s*:\s*"run"/.test(text),
  change: form === 'shell' || /"type"\s*:\s*"(?!frames")/.test(text),
});

async function store(
  db: Queryable,
  { runId, status }: RecordingRow,
  row: SourceRow,
  seq: number,
  digest: Buffer,
  { header, frames, entries }: Sorted,
): Promise<void> {
  await insertBatch(db, row, seq, framesText(frames), digest);
  if (header) await fillRun(db, runId, header);
  await putEntries(db, runId, entries);
  if (status === 'ended') await updateRecording(db, runId, { settled: false });
  else if (header) await updateRecording(db, runId, {});
  await keep(db, row);
}

/** Keeps where a source stands. @throws Error where another process was quicker, which its lock does not let happen: then nothing is stored */
async function keep(db: Queryable, row: SourceRow): Promise<void> {
  if (!(await updateSource(db, row)))
    throw new Error(`source ${row.id} was changed by another process while a batch was stored`);
}

/** @throws Problem where the key is nobody's, or no longer good */
function admitted(row: SourceRow | null): SourceRow {
  if (!row)
    throw new Problem(401, {
      code: 'unknown-key',
      message: 'This key is unknown.',
      remedy: 'Add the logger at the bench of its run, and use the key shown there.',
    });
  if (row.revoked)
    throw new Problem(403, {
      code: 'revoked',
      message: `The key of “${row.name}” was revoked.`,
      remedy: 'Add the logger again at the bench, and use the new key.',
    });
  if (row.keyEnded !== null)
    throw new Problem(403, {
      code: 'key-ended',
      message:
        row.keyEnded === 'run'
          ? `The run of “${row.name}” ended more than 15 minutes ago, and its key with it.`
          : `Whoever made the key of “${row.name}” is signed out, and the key ended with that.`,
      remedy:
        row.keyEnded === 'run'
          ? 'Import what the logger still has as a file.'
          : 'Add the source again at the bench, and use its new key.',
    });
  return row;
}

function gone(): never {
  throw notFound('recording');
}

/** A number that was stored before with other content is no batch that was sent twice: it is another logger, or one that began anew. */
const otherContent = ({ name, next }: SourceRow, seq: number): Problem =>
  new Problem(409, {
    code: 'other-content',
    message: `Batch ${seq} of “${name}” is already stored with other content.`,
    remedy: `A logger was restarted, or a second one uses the same key. Ask GET /api/live for the next number (now ${next}) and continue from there; give each logger its own key.`,
    next,
  });

const tooFast = (message: string): Problem =>
  new Problem(429, {
    code: 'slow-down',
    message,
    remedy: 'Keep the batch, wait one second and send it again.',
  });

/** The run's clock; null before the start. */
export const runMs = (row: RecordingRow): number | null => runClockMs(row, serverNow());

function statusOf(recording: RecordingRow, { next }: SourceRow): LiveStatus {
  return { status: recording.status, speed: recording.speed, runMs: runMs(recording), next };
}

function toBenchSource(row: SourceRow & { held: number }): BenchSource {
  const {
    id,
    name,
    kind,
    standIn,
    revoked,
    keyEnded,
    ended,
    frames,
    lines,
    refused,
    refusals,
    heardMs,
    held,
  } = row;
  return {
    id,
    name,
    kind,
    standIn,
    revoked: revoked || keyEnded === 'session',
    ended,
    frames,
    lines,
    refused,
    refusals,
    held,
    heardAt: heardMs,
  };
}
