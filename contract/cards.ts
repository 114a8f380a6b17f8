import type { DayPlan, PlanDevice } from '@pace-check/core';
import * as z from 'zod';
import { anyAmount, number } from './numbers';
import { name, type NamedItem } from './names';
import { preflight, type Preflight } from './kit';
import { moment, text, trimmed } from './text';

/** Test cards, viewers' requests, and the day. Temperatures in °C, times of day in minutes from midnight. */

const minuteOfDay = number('enter a time')
  .int('enter whole minutes')
  .min(0, 'at least 0')
  .max(48 * 60, 'at most 2 days');
const over = (least: number, most: number): z.ZodNumber =>
  number('enter a number').min(least, `at least ${least}`).max(most, `at most ${most}`);

export const POLICIES = ['highest', 'best playable', 'as delivered'] as const;

export const cardStep = z
  .strictObject({
    id: z.uuid(),
    device: name.nullable(),
    title: name,
    setup: name.nullable(),
    minutes: number('enter a number')
      .int('enter whole minutes')
      .min(1, 'at least one minute')
      .max(600, 'at most 600 minutes'),
    repeats: number('enter a number')
      .int('enter a whole number')
      .min(1, 'at least once')
      .max(20, 'at most 20 times'),
    attended: z.boolean(),
    wanted: number('enter a number').int('enter a whole number').min(0, 'at least 0').max(999, 'at most 999'),
    /** Steps of the card that must have ended before. */
    after: z.array(z.uuid()).max(60),
    /** Conditions that belong to the step, not to the moment. */
    conditions: preflight,
    requestId: z.uuid().nullable(),
    /** The ladder that is climbed in it: its minutes follow what is still to be probed. */
    ladderId: z.uuid().nullable().default(null),
    /** Titles that are played straight after it, warm and on one clock, within its minutes. */
    then: z
      .array(
        z.strictObject({
          title: name,
          minutes: number('enter a number')
            .int('enter whole minutes')
            .min(1, 'at least one minute')
            .max(600, 'at most 600 minutes'),
        }),
      )
      .max(20, 'at most 20 titles')
      .default([]),
    note: text(1000),
  })
  .refine(({ then, minutes }) => then.reduce((sum, one) => sum + one.minutes, 0) < minutes, {
    path: ['then'],
    error: 'these titles use all minutes of the step: make the step longer, so that its own title has time',
  });
export type CardStep = z.infer<typeof cardStep>;

export const cardRules = z.strictObject({
  startOverRoomC: over(0.5, 30),
  startPercent: over(0, 100),
  floorPercent: over(0, 95),
  chargeBelowC: over(10, 45),
  prepareMin: over(0, 60).int('enter whole minutes'),
  restMin: over(1, 60).int('enter whole minutes'),
  stretchMin: over(10, 300).int('enter whole minutes'),
  handsRest: z.boolean(),
});
export type CardRules = z.infer<typeof cardRules>;

export const cardDay = z.strictObject({
  /** Its date, as YYYY-MM-DD; null while it is not set. */
  date: z.iso.date('enter a date such as 2026-05-09').nullable(),
  startMin: minuteOfDay,
  finishByMin: minuteOfDay.nullable(),
  hands: z.union([z.literal(1), z.literal(2)]),
  parallel: z.boolean(),
  order: z.enum(['light-to-heavy', 'as-listed']),
  roomC: over(-60, 80).nullable(),
  devices: z
    .array(
      z.strictObject({ device: name, skinC: over(-60, 120).nullable(), percent: over(0, 100).nullable() }),
    )
    .max(60),
});
export type CardDay = z.infer<typeof cardDay>;

export const cardInput = z.strictObject({
  name,
  policy: z.enum(POLICIES),
  /** A template of one's own: laid out anew, never run. */
  template: z.boolean(),
  rules: cardRules,
  steps: z.array(cardStep).max(300, 'at most 300 steps'),
  day: cardDay,
});
export type CardInput = z.infer<typeof cardInput>;

/** A change is made to the card as it was read: another's change in between is not run over. */
export const cardChange = cardInput.extend({ revision: number().int().min(0) });
export type CardChange = z.infer<typeof cardChange>;

const ofRun = { stepId: z.uuid(), repeat: number().int().min(1).max(20) };
const atMin = number('enter a time')
  .min(0, 'at least 0')
  .max(72 * 60, 'at most 3 days');

export const dayEvent = z.discriminatedUnion('kind', [
  z.strictObject({ id: z.uuid(), kind: z.literal('started'), ...ofRun, atMin }),
  z.strictObject({
    id: z.uuid(),
    kind: z.literal('ended'),
    ...ofRun,
    atMin,
    how: z.enum(['done', 'crashed', 'skipped']),
  }),
  // another title came on in a run that goes on
  z.strictObject({ id: z.uuid(), kind: z.literal('title'), ...ofRun, atMin, title: name }),
  z.strictObject({
    id: z.uuid(),
    kind: z.literal('reading'),
    device: name,
    atMin,
    skinC: over(-60, 120).nullable(),
    percent: over(0, 100).nullable(),
  }),
  z.strictObject({ id: z.uuid(), kind: z.literal('preflight'), ...ofRun, atMin, preflight }),
  z.strictObject({ id: z.uuid(), kind: z.literal('linked'), ...ofRun, atMin, runId: z.uuid() }),
]);
export type StoredDayEvent = z.infer<typeof dayEvent>;

/** With ids that their makers gave: sent twice they are there once. */
export const dayEvents = z.strictObject({ events: z.array(dayEvent).min(1).max(200) });
export type DayEvents = z.infer<typeof dayEvents>;

export const storedPlan = z.custom<DayPlan>(
  (value) => planShape.safeParse(value).success,
  'this is not a valid plan',
);
const minutes = number().min(0).max(10_000);
const plannedRuns = z
  .array(
    z.strictObject({
      taskId: text(400),
      deviceId: text(400),
      hand: number().int(),
      prepareMin: minutes,
      startMin: minutes,
      endMin: minutes,
      attended: z.boolean(),
      startOverRoomC: anyAmount(),
      startPercent: anyAmount(),
      endOverRoomC: anyAmount(),
      endPercent: anyAmount(),
    }),
  )
  .max(6000);
const planShape = z.strictObject({
  runs: plannedRuns,
  past: plannedRuns,
  pauses: z
    .array(
      z.strictObject({
        deviceId: text(400),
        kind: z.enum(['cool', 'charge']),
        fromMin: minutes,
        toMin: minutes,
      }),
    )
    .max(20_000),
  rests: z.array(z.strictObject({ hand: number().int(), fromMin: minutes, toMin: minutes })).max(6000),
  dropped: z
    .array(z.strictObject({ taskId: text(400), why: z.enum(['day-full', 'battery', 'after-dropped']) }))
    .max(6000),
  fromMin: minutes,
  finishMin: minutes,
  handsOnMin: minutes,
  waitingMin: anyAmount(),
  boundMin: minutes,
  boundFrom: text(400),
  proven: z.boolean(),
  order: z.array(z.strictObject({ taskId: text(400), rest: z.boolean() })).max(6000),
});

/** The plan that is followed; null takes it away. */
export const planInput = z.strictObject({ plan: storedPlan.nullable(), ofRevision: number().int().min(0) });
export type PlanInput = z.infer<typeof planInput>;

/** What is done on a card's day: something happened, what was noted is taken back, or the rest is laid out anew. */
export const dayChange = z.discriminatedUnion('kind', [
  ...dayEvent.options,
  z.strictObject({ id: z.uuid(), kind: z.literal('take-back'), event: z.uuid() }),
  /** The plan that is followed from now on, and the card that it was made for. */
  z.strictObject({ id: z.uuid(), kind: z.literal('plan'), ...planInput.shape }),
]);
export type DayChange = z.infer<typeof dayChange>;

export const newRequest = z.strictObject({
  title: name,
  device: name.nullable(),
  asked: number('enter a number')
    .int('enter a whole number')
    .min(1, 'at least one')
    .max(100_000, 'at most 100,000'),
  source: trimmed(400).default(''),
});
export type NewRequest = z.infer<typeof newRequest>;

export interface ViewerRequest {
  id: string;
  title: string;
  device: string | null;
  /** How many asked, all sources together. */
  asked: number;
  sources: { source: string; asked: number }[];
  /** The run that answers it. */
  answeredBy: NamedItem | null;
  /** A card that holds a step for it. */
  onCard: NamedItem | null;
}

export interface CardSummary extends NamedItem {
  template: boolean;
  policy: (typeof POLICIES)[number];
  date: string | null;
  devices: string[];
  steps: number;
  /** Runs that the card asks for, and those that are over. */
  runs: number;
  ended: number;
  finishMin: number | null;
  dropped: number;
}

export interface Card extends CardInput {
  id: string;
  revision: number;
  plan: DayPlan | null;
  /** The plan was made for an earlier revision of the card. */
  planIsOld: boolean;
  events: StoredDayEvent[];
  /** Names of the runs that steps are linked to. */
  linked: { runId: string; name: string }[];
  /** What the planner knows of the card's devices. */
  known: PlanDevice[];
}

/** Where a run stands on a card. */
export interface RunOnCard {
  cardId: string;
  cardName: string;
  policy: (typeof POLICIES)[number];
  stepId: string;
  repeat: number;
}

/** A cool-down that was read off a device. */
export const newCoolDown = z.strictObject({
  device: name,
  spot: name,
  roomC: over(-60, 80).nullable(),
  startedAt: moment,
  readings: z
    .array(z.strictObject({ atS: number().min(0).max(86_400), c: over(-60, 120) }))
    .min(1, 'at least one reading')
    .max(2000),
});
export type NewCoolDown = z.infer<typeof newCoolDown>;

/** What preflight asks, in its order, and what is known of it. */
export interface PreflightKnown {
  /** From the last run on the device, or from what the day says. */
  known: Preflight;
  /** Where it is from, for a sentence. */
  from: string | null;
  /** What was seen of the title on the device before and stands in the way of a run. */
  seen: string[];
}

/** The usual rules of a card. */
export const USUAL_RULES: CardRules = {
  startOverRoomC: 3,
  startPercent: 50,
  floorPercent: 20,
  chargeBelowC: 35,
  prepareMin: 3,
  restMin: 10,
  stretchMin: 90,
  handsRest: true,
};
