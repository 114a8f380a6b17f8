import { COMPARISON_KINDS, NEED_WORDS } from '@pace-check/core';
import * as z from 'zod';
import { benchPlan, runOfStep, SOURCE_KINDS } from './bench';
import { cardDay, cardRules, cardStep, dayEvent, POLICIES, storedPlan } from './cards';
import { choiceDoc } from './choice';
import { WEAK_MEASURES } from './compare';
import { settings } from './http';
import {
  accessoryFacts,
  deviceFacts,
  instrumentFacts,
  newRefusal,
  preflight,
  setupFacts,
  titleFacts,
} from './kit';
import { ladderDoc } from './ladder';
import { name, spotPlace } from './names';
import { anyAmount, number } from './numbers';
import { claim, outcome } from './outcomes';
import { reviewDoc } from './review';
import { entryLine } from './runFile';
import { syntheticDoc } from './synthetic';
import { moment, momentMs, text } from './text';

/**
 * Rows of all data that come from another Pace Check, table by table: what
 * they hold is checked as if a person had sent it, before any is stored.
 * Columns that stand in no schema here are the database's to check.
 */

const id = z.guid();
const idOrNull = id.nullable();
const words = text(4000);
const positive = anyAmount().positive('above 0').nullable();
const count = number().int().min(0);
const celsius = number().min(-60, 'at least −60').max(120, 'at most 120');
const named = (facts: z.ZodType): z.ZodObject => z.looseObject({ id, name, facts });
const document = (doc: z.ZodType): z.ZodObject => z.looseObject({ id, doc });
/** A moment that has been: a clock that believes one to come would run ahead for ever. */
const past = moment.refine(
  (value) => Date.parse(value) < Date.now() + DAY_MS,
  'lies in the future: correct the clock of the machine that it comes from',
);
const pastMs = momentMs.refine(
  (value) => value < Date.now() + DAY_MS,
  'lies in the future: correct the clock of the machine that it comes from',
);
const DAY_MS = 86_400_000;

const run = z.looseObject({
  id,
  name: text(400),
  device_id: id,
  title_id: id,
  setup_id: idOrNull,
  target_fps: positive,
  refresh_hz: positive,
  native_fps: positive,
  need: z.enum(NEED_WORDS).nullable(),
  room_c: number().min(-60, 'at least −60').max(80, 'at most 80').nullable(),
  battery_wh: positive,
  conditions: z.array(text(400)).max(200),
  started_at: moment.nullable(),
  imported_at: moment,
  preflight,
  scene: text(400).nullable(),
  from_kit: z.array(text(60)).max(60),
  bars: settings.shape.bars,
  dropped_list: z.array(z.looseObject({})).max(1000),
});

const recording = z.looseObject({
  run_id: id,
  status: z.enum(['ready', 'running', 'ended']),
  started_ms: pastMs.nullable(),
  end_ms: momentMs.nullable(),
  speed: number().min(1).max(60),
  plan: benchPlan,
  step: runOfStep.nullable(),
});

const source = z.looseObject({
  id,
  run_id: id,
  name,
  kind: z.enum(SOURCE_KINDS),
  refusals: z.array(z.unknown()).max(1000),
  heard_ms: pastMs.nullable(),
});

const entry = z
  .looseObject({ run_id: id, id, at_ms: anyAmount().min(0), type: text(40), line: entryLine })
  .refine(({ type, line }) => type === line.type, { path: ['type'], error: 'is not the type of its line' });

const card = z.looseObject({
  id,
  name,
  policy: z.enum(POLICIES),
  rules: cardRules,
  day: cardDay,
  plan: storedPlan.nullable(),
});

const step = z.looseObject({
  id,
  card_id: id,
  title_id: id,
  device_id: idOrNull,
  minutes: cardStep.shape.minutes,
  repeats: cardStep.shape.repeats,
  wanted: cardStep.shape.wanted,
  conditions: cardStep.shape.conditions,
  note: cardStep.shape.note,
  then: cardStep.shape.then,
});

const coolDown = z.looseObject({
  id,
  device_id: id,
  spot: name,
  room_c: celsius.nullable(),
  ready_c: celsius.nullable(),
  tau_s: positive,
  started_at: past,
  readings: z.array(z.looseObject({ atS: number().min(0).max(86_400), c: celsius })).max(2000),
});

const weakValue = z.looseObject({
  id,
  device_id: id,
  title_id: id,
  measure: z.enum(WEAK_MEASURES),
  value: anyAmount().nullable(),
  low: anyAmount().nullable(),
  high: anyAmount().nullable(),
  source: words,
  who: words,
});

const written = z.looseObject({
  name: text(400),
  revision: count,
  runs: z.array(
    z.looseObject({ id, name: text(400), stated: z.looseObject({}), figures: z.looseObject({}) }),
  ),
  comparisons: z.array(z.looseObject({})),
  sections: z.array(z.looseObject({ kind: text(60) })),
  corrections: z.array(words),
});

/** By the names of the tables that travel. */
export const TRAVELLING_ROWS: Readonly<Record<string, z.ZodType<Record<string, unknown>>>> = {
  device: named(deviceFacts),
  title: named(titleFacts),
  accessory: named(accessoryFacts),
  instrument: named(instrumentFacts),
  setup: named(setupFacts).extend({ title_id: id }),
  run,
  recording,
  source,
  entry,
  source_batch: z.looseObject({ run_id: id, source_id: id, seq: count, through: count }),
  bench_change: z.looseObject({ id, run_id: id }),
  picture: z.looseObject({ id, run_id: id, note: words }),
  viewer_request: z.looseObject({
    id,
    title_id: id,
    sources: z.array(z.looseObject({ source: words, asked: number().int().min(1).max(100_000) })),
  }),
  refusal: z.looseObject({ id, device_id: id, title_id: id, says: newRefusal.shape.says }),
  weak_value: weakValue,
  spot_place: spotPlace.loose().extend({ device_id: id }),
  cool_down: coolDown,
  cool_change: z.looseObject({ id, cool_down_id: id }),
  comparison: z.looseObject({
    id,
    name: text(400).nullable(),
    kind: z.enum(COMPARISON_KINDS),
    margin: number().min(0).max(1),
    answer_then: words.nullable(),
  }),
  comparison_side: z.looseObject({ comparison_id: id, place: count, name: text(400).nullable() }),
  comparison_run: z.looseObject({ comparison_id: id, side: count, place: count, run_id: id }),
  ladder: document(ladderDoc),
  choice: document(choiceDoc),
  outcome: document(outcome),
  claim: document(claim),
  synthetic: document(syntheticDoc),
  layer_version: z.looseObject({
    layer: text(120),
    version: text(60),
    came_on: z.iso.date(),
    fork_of: text(120).nullish(),
  }),
  review: document(reviewDoc),
  publication: z.looseObject({ review_id: id, revision: count, published_at: moment, written }),
  card,
  card_step: step,
  card_event: z.looseObject({ id, card_id: id, event: dayEvent }),
  setting: z.looseObject({ key: z.literal('bars'), value: settings.shape.bars }),
};
