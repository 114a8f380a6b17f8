import type { Misbehaviour, STAND_INS } from '@pace-check/contract';
import { lineTimeMs, type RunLine } from '@pace-check/core';
import { simulate } from '../handset';
import { Random } from '../random';
import type { Scenario } from '../scenario';

export type StandInKind = (typeof STAND_INS)[number];

/** A line, and when it can be known: frames when the last of them was shown. */
export interface TimedLine {
  dueMs: number;
  line: RunLine;
}

/** Frames in a line of a live source. */
const LIVE_FRAMES = 12;
/** A thermometer is held to every spot once a minute. */
const SKIN_EVERY_MIN = 1;
const SENSORS_EVERY_S = 1;
/** A stream's own counter is read every ten seconds. */
const COUNTER_EVERY_MS = 10_000;
const GLITCHES_PER_MINUTE = 0.4;
/** Share of the run after which a title that is told to crash does so, and a screen dims. */
const CRASH_AFTER = 0.5;
const DIM_AFTER = 0.6;

/** What each stand-in tells of a run. */
const TELLS: Record<Exclude<StandInKind, 'link'>, RunLine['type'][]> = {
  handset: ['run', 'frames', 'battery', 'load', 'refresh', 'mark', 'end'],
  thermometer: ['skin'],
  meter: ['power'],
};

/**
 * The lines of one stand-in, in the order in which they can be known. All
 * stand-ins of the same scenario and seed tell of the same run.
 */
export function* standIn(
  kind: StandInKind,
  scenario: Scenario,
  seed: number,
  misbehave: Misbehaviour[],
): Generator<TimedLine> {
  const live: Scenario = {
    ...scenario,
    sensorsEveryS: SENSORS_EVERY_S,
    skinMinutes: Array.from(
      { length: Math.ceil(scenario.seconds / 60 / SKIN_EVERY_MIN) },
      (_, i) => i * SKIN_EVERY_MIN,
    ),
    crashAtS: misbehave.includes('crash') ? scenario.seconds * CRASH_AFTER : scenario.crashAtS,
  };
  if (kind === 'link') return yield* link(live, seed);
  let dimMs =
    kind === 'handset' && misbehave.includes('dim') ? scenario.seconds * 1000 * DIM_AFTER : Infinity;
  for (const line of simulate(live, seed, LIVE_FRAMES)) {
    const dueMs = knownAtMs(line);
    if (dueMs >= dimMs) {
      yield { dueMs, line: { type: 'mark', atMs: dimMs, kind: 'dim', note: 'the screen dimmed itself' } };
      dimMs = Infinity;
    }
    if (TELLS[kind].includes(line.type)) yield { dueMs, line };
  }
}

function knownAtMs(line: RunLine): number {
  if (line.type === 'run') return 0;
  return line.type === 'frames'
    ? line.atMs + line.us.reduce<number>((sum, us) => sum + (us ?? 0), 0) / 1000
    : lineTimeMs(line);
}

/** A usual wireless link: there and back, and what it carries. */
const LATENCY_MS = 24;
const MBPS = 25;

/** A streamed title as its own counter shows it, with what the link drops. */
function* link(scenario: Scenario, seed: number): Generator<TimedLine> {
  const random = new Random(seed + 1);
  let frames = 0;
  let dueMs = COUNTER_EVERY_MS;
  // the same world as the others'
  for (const line of simulate(scenario, seed, LIVE_FRAMES)) {
    if (line.type === 'end') yield { dueMs: line.atMs, line };
    if (line.type !== 'frames') continue;
    frames += line.us.length;
    if (knownAtMs(line) < dueMs) continue;
    yield {
      dueMs,
      line: {
        type: 'rate',
        atMs: dueMs,
        fps: Math.round((frames * 1000) / COUNTER_EVERY_MS),
        by: 'in-title',
      },
    };
    // what is lost is sent again, and waits for it
    const lossPercent = Math.round(Math.max(0, 0.4 + 0.5 * random.normal()) * 10) / 10;
    yield {
      dueMs,
      line: {
        type: 'link',
        atMs: dueMs,
        latencyMs: Math.round(Math.max(4, LATENCY_MS + 3 * random.normal() + 12 * lossPercent)),
        lossPercent,
        mbps: Math.round(Math.max(1, MBPS * (1 - 0.1 * lossPercent) + random.normal()) * 10) / 10,
      },
    };
    if (random.happens(GLITCHES_PER_MINUTE, COUNTER_EVERY_MS / 1000))
      yield { dueMs, line: { type: 'mark', atMs: dueMs, kind: 'glitch', note: 'the link dropped packets' } };
    frames = 0;
    dueMs += COUNTER_EVERY_MS;
  }
}
