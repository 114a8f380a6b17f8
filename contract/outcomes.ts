import {
  CLAIM_LEVELS,
  GLITCH_KINDS,
  OUTCOME_STATUSES,
  SMOOTH_WORDS,
  type CountedOutcome,
  type RunOutcomeStatus,
} from '@pace-check/core';
import * as z from 'zod';
import { name } from './names';
import { trimmed } from './text';

/** Outcomes: how it goes with a title that gives no run, what is claimed of it, and versions that were noted. */

const day = z.iso.date('enter a date such as 2026-03-01');
const words = trimmed(400).default('');

export const outcome = z.strictObject({
  id: z.uuid('an id of your own'),
  device: name,
  title: name,
  /** Emulator, layer or service that it was tried with; empty for none. */
  with: trimmed(120).default(''),
  version: trimmed(60).default(''),
  status: z.enum(OUTCOME_STATUSES),
  /** Where it crashed, or what was wrong. */
  where: words,
  glitches: z.array(z.enum(GLITCH_KINDS)).max(GLITCH_KINDS.length).default([]),
  /** How often it stumbles; null where nobody said so. */
  stumbles: z.enum(SMOOTH_WORDS).nullable().default(null),
  scene: trimmed(120).default(''),
  /** Shaders were compiled while it was played. */
  firstPlay: z.boolean().default(false),
  date: day,
  source: z.enum(['own', 'reader', 'memory']).default('own'),
  evidence: words,
  /** What was tried. */
  tried: words,
});
export type Outcome = z.infer<typeof outcome>;

export const claim = z.strictObject({
  id: z.uuid('an id of your own'),
  title: name,
  /** Empty where it is said of every device. */
  device: trimmed(120).default(''),
  with: trimmed(120).default(''),
  level: z.enum(CLAIM_LEVELS),
  /** Which list, or who says so. */
  source: trimmed(200).min(1, 'enter who made the claim'),
  date: day.nullable().default(null),
});
export type Claim = z.infer<typeof claim>;

/** A version of an emulator, a layer or a service, with the day on which it came. */
export const layerVersion = z
  .strictObject({
    with: trimmed(120).min(1, 'enter the emulator or layer'),
    version: trimmed(60).min(1, 'enter a version'),
    date: day,
    /** What it is a fork of; it keeps versions of its own. Null for none. */
    forkOf: trimmed(120).nullable().default(null),
  })
  .refine((one) => one.forkOf?.toLowerCase() !== one.with.toLowerCase(), {
    path: ['forkOf'],
    message: 'is what it is a version of: name the other one, or none',
  });
export type LayerVersion = z.infer<typeof layerVersion>;

/** Noted at once at most. */
const MOST = 2000;
export const newOutcomes = z.strictObject({
  outcomes: z.array(outcome).max(MOST, `at most ${MOST} at once`).default([]),
  claims: z.array(claim).max(MOST, `at most ${MOST} at once`).default([]),
  versions: z.array(layerVersion).max(60, 'at most 60 at once').default([]),
});
export type NewOutcomes = z.input<typeof newOutcomes>;

/** A run as an outcome of its title. */
export interface RunOutcome extends CountedOutcome<RunOutcomeStatus> {
  runId: string;
  /** Name of the run, and of its setup where it has one. */
  name: string;
  setup: string | null;
}

export interface Outcomes {
  /** The latest first. */
  outcomes: Outcome[];
  claims: Claim[];
  /** What the runs of the library say, the latest first: they count as well. */
  runs: RunOutcome[];
  /** In the order of their days. */
  versions: LayerVersion[];
}
