import { END_REASONS } from '@pace-check/core';
import type { EndReason, EntryLine, LiveFigures, SourceUse } from '@pace-check/core';
import * as z from 'zod';
import { number } from './numbers';
import { runFacts } from './http';
import { name } from './names';
import { preflight } from './kit';
import { entryLine } from './runFile';
import { momentMs, runMs, text } from './text';

/** The bench: a run while it is recorded, its sources, and cool-downs that are watched. Times on the run's clock in ms. */

const whole = (least: number, most: number): z.ZodNumber =>
  number('enter a number')
    .int('enter a whole number')
    .min(least, `at least ${least}`)
    .max(most, `at most ${most}`);

export const benchPlan = z.strictObject({
  /** Planned length; null for an open end. */
  minutes: whole(1, 1440).nullable(),
  floorPercent: number('enter a number').min(0, 'at least 0').max(95, 'at most 95').nullable(),
  /** Minutes between rounds of readings; null for no prompts. */
  everyMin: number('enter a number').min(0.5, 'at least 0.5 minutes').max(120, 'at most 120').nullable(),
  /** The round: spots in the order in which they are read. */
  spots: z.array(name).max(12, 'at most 12 spots'),
  /** At the planned end the run ends by itself. */
  endsItself: z.boolean(),
});
export type BenchPlan = z.infer<typeof benchPlan>;
export const USUAL_BENCH_PLAN: BenchPlan = {
  minutes: 30,
  floorPercent: 20,
  everyMin: 5,
  spots: ['back by the camera', 'back middle', 'front middle'],
  endsItself: false,
};

/** The step of a card that a run is made for, and when the day has it start, minutes from midnight. */
export const runOfStep = z.strictObject({
  cardId: z.uuid(),
  stepId: z.uuid(),
  repeat: number().int().min(1).max(20),
  atMin: number()
    .min(0)
    .max(72 * 60),
});
export type RunOfStep = z.infer<typeof runOfStep>;

/** Fastest practice with stand-ins. */
export const FASTEST = 60;

const changeId = { id: z.uuid() };

/** What a person does at the bench. Ids are the browser's own: sent twice it is done once. */
export const benchChange = z.discriminatedUnion('kind', [
  z.strictObject({
    ...changeId,
    kind: z.literal('open'),
    facts: runFacts,
    preflight,
    plan: benchPlan,
    speed: number().min(1).max(FASTEST),
    step: runOfStep.nullable(),
  }),
  /** When it started, in ms since 1970 by the server's clock as the browser reckons it. */
  z.strictObject({ ...changeId, kind: z.literal('start'), at: momentMs }),
  z.strictObject({
    ...changeId,
    kind: z.literal('put'),
    entry: z.uuid(),
    line: entryLine,
    /** A span that is still going on. */ open: z.boolean(),
    writer: text(60),
  }),
  z.strictObject({ ...changeId, kind: z.literal('take-back'), entry: z.uuid() }),
  z.strictObject({ ...changeId, kind: z.literal('plan'), plan: benchPlan }),
  z.strictObject({
    ...changeId,
    kind: z.literal('end'),
    entry: z.uuid(),
    atMs: runMs,
    reason: z.enum(END_REASONS),
    writer: text(60),
  }),
]);
export type BenchChange = z.infer<typeof benchChange>;
/** Each change is checked by itself, so that a bad one does not hold up the others. */
export const benchChanges = z.strictObject({ changes: z.array(z.unknown()).min(1).max(200) });

/** What became of changes that were sent. */
export interface ChangesTaken {
  done: string[];
  refused: { id: string; reason: string }[];
  /** The server's clock, ms since 1970. */
  now: number;
  /** Of a run at the bench: the number of its last change then. */
  change?: number;
}

export interface BenchEntry {
  id: string;
  line: EntryLine;
  open: boolean;
  /** Id of the source that sent it; null where a person did. */
  source: string | null;
  writer: string | null;
  takenBack: boolean;
}

export const SOURCE_KINDS = ['handset', 'thermometer', 'meter', 'link', 'other'] as const;
export type SourceKind = (typeof SOURCE_KINDS)[number];
/** The stand-ins that ship with the product. */
export const STAND_INS = ['handset', 'thermometer', 'meter', 'link'] as const satisfies readonly SourceKind[];
/** What a stand-in may be told to do wrong. */
export const MISBEHAVIOURS = ['drop-out', 'jump', 'doubles', 'nonsense', 'crash', 'dim'] as const;
export type Misbehaviour = (typeof MISBEHAVIOURS)[number];

export const newSource = z.strictObject({ name, kind: z.enum(SOURCE_KINDS) });
export const newStandIn = z.strictObject({
  kind: z.enum(STAND_INS),
  scenario: z.string().regex(/^[a-z][a-z0-9-]{0,40}$/, 'the name of a scenario'),
  minutes: number().positive().max(1440).nullable(),
  seed: number().int().min(0).max(1e9),
  misbehave: z.array(z.enum(MISBEHAVIOURS)).max(6),
});
export type NewStandIn = z.infer<typeof newStandIn>;

export interface SourceRefusal {
  batch: number;
  /** Line of the batch, from 1. */
  line: number;
  reason: string;
}

export interface BenchSource {
  id: string;
  name: string;
  kind: SourceKind;
  standIn: boolean;
  revoked: boolean;
  /** It has sent its end. */
  ended: EndReason | null;
  frames: number;
  lines: number;
  refused: number;
  /** The last few. */
  refusals: SourceRefusal[];
  /** Batches that came before their turn. */
  held: number;
  /** The server's clock at its last word, ms since 1970; null before the first. */
  heardAt: number | null;
}

/** A source with its key, which is shown this once. */
export interface SourceWithKey extends BenchSource {
  key: string;
}

export interface Recording {
  runId: string;
  name: string;
  device: string;
  title: string;
  setup: string | null;
  target: number | null;
  refresh: number | null;
  roomC: number | null;
  batteryWh: number | null;
  status: 'ready' | 'running' | 'ended';
  /** ms since 1970 by the server's clock. */
  startedAt: number | null;
  speed: number;
  plan: BenchPlan;
  step: RunOfStep | null;
  end: { atMs: number; reason: EndReason } | null;
  sources: BenchSource[];
  /** What the figures stand on, once the run has ended. */
  used: SourceUse[];
  /** The figures are those of all lines that are here. */
  settled: boolean;
}

/** Figures of frames while they come in. */
export interface LivePace {
  source: string;
  /** Time of the latest frame. */
  heardMs: number;
  figures: LiveFigures;
}

export interface BenchState {
  recording: Recording;
  entries: BenchEntry[];
  live: LivePace | null;
  /** Number of the last change that this holds. */
  change: number;
  now: number;
}

/** What a source hears when it asks, and with each batch. */
export interface LiveStatus {
  status: Recording['status'];
  speed: number;
  /** The run's clock; null before the start. */
  runMs: number | null;
  /** Number of the batch that is waited for. */
  next: number;
}
export interface BatchTaken extends LiveStatus {
  taken: number;
  /** Unknown types and kinds. */
  passedOver: number;
  refused: { line: number; reason: string }[];
  duplicate: boolean;
}

const celsius = number('enter a number').min(-60, 'at least −60').max(120, 'at most 120');

/** What a person does at the cool-down watch. */
export const coolChange = z.discriminatedUnion('kind', [
  z.strictObject({
    ...changeId,
    kind: z.literal('watch'),
    device: name,
    spot: name,
    roomC: celsius.nullable(),
    readyC: celsius,
    startedAt: momentMs,
  }),
  z.strictObject({ ...changeId, kind: z.literal('reading'), reading: z.uuid(), at: momentMs, c: celsius }),
  z.strictObject({ ...changeId, kind: z.literal('take-back'), reading: z.uuid() }),
  z.strictObject({ ...changeId, kind: z.literal('ready-line'), readyC: celsius }),
  z.strictObject({ ...changeId, kind: z.literal('done') }),
]);
export type CoolChange = z.infer<typeof coolChange>;

/** A cool-down that is watched. */
export interface CoolWatch {
  id: string;
  device: string;
  spot: string;
  /** Time constant of the device's own earlier cool-downs, s; null where there is none. */
  knownTauS: number | null;
  roomC: number | null;
  readyC: number;
  /** ms since 1970. */
  startedAt: number;
  readings: { id: string; atS: number; c: number }[];
}
