import { headerOfPreflight } from '@pace-check/contract';
import {
  LONGEST_RUN_US,
  MOST_FRAMES,
  parseLine,
  type EntryLine,
  type FrameTrack,
  type FramesLine,
  type Gap,
  type RunLine,
} from '@pace-check/core';
import { fromChunks } from '../frames/chunkCodec';
import type { Queryable } from '../sql/database';
import { linesOf, readEntryPages } from '../sql/entries';
import { readChunks } from '../sql/frames';
import { readRun, type NamedRun } from '../sql/runs';
import { notFound } from './problem';

/** Frames in a line of an exported run file. */
const LINE_FRAMES = 600;

export function* encoded(lines: Iterable<RunLine>): Generator<Uint8Array> {
  const encoder = new TextEncoder();
  for (const line of lines) yield encoder.encode(`${JSON.stringify(line)}\n`);
}

/** A run as the lines of an open run file. */
export function* runLines(run: NamedRun, track: FrameTrack, entries: EntryLine[]): Generator<RunLine> {
  yield header(run);
  yield* frameLines(track);
  yield* entries;
}

function header(run: NamedRun): RunLine {
  return {
    type: 'run',
    version: 1,
    id: run.id,
    device: run.device,
    title: run.title,
    setup: run.setup ?? undefined,
    target: run.target ?? undefined,
    refresh: run.refresh ?? undefined,
    native: run.native ?? undefined,
    need: run.need ?? undefined,
    room: run.roomC ?? undefined,
    batteryWh: run.batteryWh ?? undefined,
    conditions: run.conditions,
    startedAt: run.startedAt ?? undefined,
    scene: run.scene ?? undefined,
    preflight: headerOfPreflight(run.preflight),
  };
}

function* frameLines({ frameUs, gaps }: FrameTrack): Generator<RunLine> {
  let clockUs = 0;
  let nextGap = 0;
  let from = 0;
  while (from < frameUs.length) {
    while (gaps[nextGap]?.beforeFrame === from) clockUs += gaps[nextGap++]!.lengthUs;
    const to = Math.min(from + LINE_FRAMES, gaps[nextGap]?.beforeFrame ?? Infinity, frameUs.length);
    const us = Array.from(frameUs.subarray(from, to));
    yield { type: 'frames', atMs: clockUs / 1000, us };
    for (const length of us) clockUs += length;
    from = to;
  }
}

/** A run that is stored, as its run file, part by part. */
export async function* runFileOf(db: Queryable, id: string): AsyncGenerator<Uint8Array> {
  const run = await readRun(db, id, true);
  if (!run) throw notFound('run');
  yield* encoded(runLines(run, fromChunks(await readChunks(db, id)), linesOf(await readEntryPages(db, id))));
}

/**
 * Frames of a file that this program wrote: its clock tells each gap to the
 * microsecond, so none is taken for a logger's inaccuracy.
 */
export class WrittenFrames {
  private readonly us: number[] = [];
  private readonly gaps: Gap[] = [];
  private clockUs = 0;

  /** Takes a line of the file; what is not of frames is passed over. @throws RangeError where no logger tells such frames */
  take(text: string): void {
    if (!text.startsWith('{"type":"frames"')) return;
    const line = parseLine(text) as FramesLine;
    const gapUs = Math.round(line.atMs * 1000) - this.clockUs;
    if (!(gapUs >= 0)) throw new RangeError('frames begin before those in front of them have ended');
    if (gapUs > 0) this.gaps.push({ beforeFrame: this.us.length, lengthUs: gapUs });
    this.clockUs += gapUs;
    for (const us of line.us) {
      if (us === null || !Number.isInteger(us) || us < 0) throw new RangeError(`a frame lasts ${us} µs`);
      this.us.push(us);
      this.clockUs += us;
    }
    if (this.clockUs > LONGEST_RUN_US) throw new RangeError('a run is longer than 48 h');
    if (this.us.length > MOST_FRAMES) throw new RangeError('a run has too many frames');
  }

  track(): FrameTrack {
    return { frameUs: Int32Array.from(this.us), gaps: this.gaps };
  }
}
