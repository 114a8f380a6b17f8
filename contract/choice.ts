import { CHOICE_AXES, type ChoiceAxis } from '@pace-check/core';
import * as z from 'zod';
import { measured, number } from './numbers';
import type { TriedRun } from './ladder';
import { name } from './names';
import { trimmed } from './text';

const optionName = trimmed(80).min(1, 'enter a name');
const notNegative = measured('enter a number').min(0, 'at least 0');

const choiceProbe = z
  .strictObject({
    id: z.uuid('an id of your own'),
    option: optionName,
    /** Speed of an emulator, or of a title with a fixed rate. */
    percent: notNegative.max(1000, 'at most 1,000 %').nullable().default(null),
    fps: notNegative.max(1000, 'at most 1,000 fps').nullable().default(null),
    glitches: notNegative.int('enter a whole number').max(1000, 'at most 1,000').nullable().default(null),
    peakC: number('enter a number').min(-60, 'at least −60').max(150, 'at most 150').nullable().default(null),
    /** It warms up, and is no probe. */
    firstPlay: z.boolean().default(false),
    note: trimmed(400).default(''),
    at: z.iso.datetime({ offset: true, error: 'enter a time' }).nullable().default(null),
    /** The run that it was seen in. */
    runId: z.uuid('the id of a run').nullable().default(null),
  })
  .refine(({ percent, fps }) => percent !== null || fps !== null, {
    path: ['percent'],
    error: 'enter a speed or a rate',
  });

/** All that is written of a choice between options without an order. */
export const choiceDoc = z
  .strictObject({
    device: name,
    title: name,
    scene: trimmed(120).default(''),
    /** What else was set. */
    setup: trimmed(400).default(''),
    axis: z.enum(CHOICE_AXES),
    options: z.array(optionName).min(2, 'enter at least two options').max(12, 'at most 12 options'),
    /** Native or target rate, fps. */
    full: number().positive('above 0').max(1000, 'at most 1,000 fps').nullable().default(null),
    probes: z.array(choiceProbe).max(500, 'at most 500 tests').default([]),
  })
  .superRefine(({ options, probes }, context) => {
    const wrong = (path: (string | number)[], message: string): void =>
      void context.addIssue({ code: 'custom', path, message });
    options.forEach((one, i) => {
      if (options.indexOf(one) < i)
        wrong(['options', i], `“${one}” is listed twice: give each option its own name`);
    });
    probes.forEach(({ option }, i) => {
      if (!options.includes(option)) wrong(['probes', i, 'option'], `there is no option “${option}”`);
    });
  });
export type ChoiceDoc = z.infer<typeof choiceDoc>;

export const newChoice = z.strictObject({ id: z.uuid('an id of your own'), doc: choiceDoc });
export type NewChoice = z.input<typeof newChoice>;
/** A choice as it is to be, made to the revision that was seen. */
export const choiceChange = z.strictObject({ revision: number().int().min(0), doc: choiceDoc });
export type ChoiceChange = z.input<typeof choiceChange>;

export interface ChoiceSummary {
  id: string;
  device: string;
  title: string;
  scene: string;
  setup: string;
  axis: ChoiceAxis;
  options: string[];
  probes: number;
  /** Where it stands, in words. */
  says: string;
  /** The one to take; null while that is open. */
  take: string | null;
  /** Each with its speed and what it costs to take it, in words. */
  told: { name: string; probes: number; speed: string | null; cost: string | null }[];
  changedAt: string;
}

export interface ChoiceDetail {
  id: string;
  revision: number;
  doc: ChoiceDoc;
  /** Spread between runs of the library, as core's archive has it. */
  spread: { squares: number; n: number };
  /** Runs of the device and title that may be probes, the latest first. */
  runs: TriedRun[];
  /** The same question for other titles and devices: never one answer for all. */
  elsewhere: { id: string; says: string }[];
}
