import { LADDER_AXES, type Demand, type LadderAxis } from '@pace-check/core';
import * as z from 'zod';
import { measured, number } from './numbers';
import { name } from './names';
import { trimmed } from './text';

const notNegative = measured('enter a number').min(0, 'at least 0');

/** A case of `pace ladder`: the rungs in order, what is thought beforehand, and what was probed. */
export const ladderCase = z
  .object({
    rungs: z
      .array(z.string('enter a name'), 'enter the list of settings')
      .min(1, 'enter at least one setting'),
    prior: z.array(notNegative).nullable().optional(),
    probes: z
      .array(
        z.object({
          rung: z.string('enter the name of a setting'),
          speed: notNegative,
          holds: z.boolean('true or false').nullable().optional(),
        }),
      )
      .nullable()
      .optional(),
  })
  .superRefine(({ rungs, probes }, context) => {
    rungs.forEach((rung, i) => {
      if (rungs.indexOf(rung) < i)
        context.addIssue({
          code: 'custom',
          path: ['rungs', i],
          message: `“${rung}” is listed twice: remove one`,
        });
    });
    probes?.forEach(({ rung }, i) => {
      if (!rungs.includes(rung))
        context.addIssue({
          code: 'custom',
          path: ['probes', i, 'rung'],
          message: `unknown setting “${rung}”`,
        });
    });
  });

const rungName = trimmed(60).min(1, 'enter a name');
const ladderProbe = z
  .strictObject({
    id: z.uuid('an id of your own'),
    rung: rungName,
    /** Speed of an emulator. */
    percent: notNegative.max(1000, 'at most 1,000 %').nullable().default(null),
    fps: notNegative.max(1000, 'at most 1,000 fps').nullable().default(null),
    holds: z.boolean('true or false').nullable().default(null),
    /** It warms up, and is no probe. */
    firstPlay: z.boolean().default(false),
    note: trimmed(400).default(''),
    at: z.iso.datetime({ offset: true, error: 'enter a time' }).nullable().default(null),
    /** What the device took meanwhile, W. */
    watts: number('enter a number').positive('above 0').max(500, 'at most 500 W').nullable().default(null),
    /** The run that it was seen in. */
    runId: z.uuid('the id of a run').nullable().default(null),
  })
  .refine(({ percent, fps, holds }) => percent !== null || fps !== null || holds !== null, {
    path: ['percent'],
    error: 'enter a speed, a rate, or whether it holds',
  });

/** All that is written of a search for the highest rung that holds. */
export const ladderDoc = z
  .strictObject({
    device: name,
    title: name,
    scene: trimmed(120).default(''),
    /** What else was set: emulator, backend, what an earlier ladder found. */
    setup: trimmed(400).default(''),
    axis: z.enum(LADDER_AXES),
    rungs: z
      .array(
        z.strictObject({
          name: rungName,
          pixels: number()
            .int()
            .positive('above 0')
            .max(1e9, 'at most 1,000,000,000')
            .nullable()
            .default(null),
        }),
      )
      .min(1, 'enter at least one setting')
      .max(64, 'at most 64 settings'),
    outputPixels: number()
      .int()
      .positive('above 0')
      .max(1e9, 'at most 1,000,000,000')
      .nullable()
      .default(null),
    /** Native or target rate, fps. */
    full: number().positive('above 0').max(1000, 'at most 1,000 fps').nullable().default(null),
    /** Ladders of that number go over the same rungs, one a title, and begin from each other. */
    together: z.uuid('a number of your own').nullable().default(null),
    /** What a sibling's search says beforehand; of several, or of none, without the id of one. */
    prior: z
      .strictObject({
        from: z.uuid('the id of a ladder').nullable(),
        says: trimmed(200),
        weights: z.array(notNegative),
      })
      .nullable()
      .default(null),
    /** How long one probe takes, with setting it up, min. */
    probeMin: number('enter a number')
      .min(0.5, 'at least 0.5 minutes')
      .max(60, 'at most 60 minutes')
      .default(3),
    probes: z.array(ladderProbe).max(500, 'at most 500 tests').default([]),
    /** The sustained run that confirmed the end. */
    confirmed: z
      .strictObject({ runId: z.uuid('the id of a run'), rung: rungName, says: trimmed(200) })
      .nullable()
      .default(null),
  })
  .superRefine(({ rungs, probes, prior }, context) => {
    const wrong = (path: (string | number)[], message: string): void =>
      void context.addIssue({ code: 'custom', path, message });
    const names = rungs.map((rung) => rung.name);
    names.forEach((one, i) => {
      if (names.indexOf(one) < i)
        wrong(['rungs', i], `“${one}” is listed twice: give each setting its own name`);
    });
    probes.forEach(({ rung }, i) => {
      if (!names.includes(rung)) wrong(['probes', i, 'rung'], `unknown setting “${rung}”`);
    });
    if (prior && prior.weights.length !== rungs.length + 1)
      wrong(['prior', 'weights'], `${rungs.length} settings and “none” need ${rungs.length + 1} numbers`);
    if (prior && !prior.weights.some((weight) => weight > 0))
      wrong(['prior', 'weights'], 'one number has to be above 0');
  });
export type LadderDoc = z.infer<typeof ladderDoc>;

export const newLadder = z.strictObject({ id: z.uuid('an id of your own'), doc: ladderDoc });
export type NewLadder = z.input<typeof newLadder>;
/** One ladder a title, over the same rungs: all are made, or none. */
export const newLadders = z
  .strictObject({
    ladders: z.array(newLadder).min(1, 'at least one title').max(60, 'at most 60 titles'),
  })
  .superRefine(({ ladders }, context) => {
    const wrong = (i: number, field: string, message: string): void =>
      context.addIssue({ code: 'custom', path: ['ladders', i, 'doc', field], message });
    const shape = ({ doc }: (typeof ladders)[number]): string =>
      JSON.stringify([doc.device, doc.axis, doc.rungs.map((rung) => rung.name)]);
    const titles = new Set<string>();
    ladders.forEach((one, i) => {
      const [first] = ladders;
      const title = one.doc.title.toLowerCase();
      if (one.doc.together === null || one.doc.together !== first!.doc.together)
        wrong(i, 'together', 'each needs the same number');
      else if (shape(one) !== shape(first!))
        wrong(i, 'rungs', 'device, axis and settings must be those of the first');
      else if (titles.has(title)) wrong(i, 'title', `“${one.doc.title}” is listed twice: remove one`);
      titles.add(title);
    });
  });
export type NewLadders = z.input<typeof newLadders>;
/** A ladder as it is to be, made to the revision that was seen. */
export const ladderChange = z.strictObject({ revision: number().int().min(0), doc: ladderDoc });
export type LadderChange = z.input<typeof ladderChange>;

export interface LadderSummary {
  id: string;
  device: string;
  title: string;
  scene: string;
  setup: string;
  axis: LadderAxis;
  /** Of an emulated title. */
  system: string | null;
  demand: Demand | null;
  rungs: string[];
  probes: number;
  /** The likeliest; null where none holds, or nothing was probed yet. */
  best: string | null;
  sure: number;
  ended: boolean;
  confirmed: boolean;
  /** Probes that are still to come, on average; null at the end. */
  probesToGo: number | null;
  /** With the run that confirms, min. */
  minutesToGo: number;
  changedAt: string;
  /** Number of the ladders that it is climbed with; null for one by itself. */
  together: string | null;
  /** Of those that are climbed together: how the search stands, and when it was last probed. */
  standing: { posterior: number[]; next: number | null; lastAt: string | null };
}

export interface LadderDetail {
  id: string;
  revision: number;
  doc: LadderDoc;
  /** Ended searches of the same axis and rungs whose posterior may be thought of beforehand. */
  siblings: { id: string; says: string; weights: number[] }[];
  /** What those that it is climbed with say, until its own first probe; null where they say nothing yet. */
  borrowed: { says: string; weights: number[] } | null;
  /** Runs of the device and title, the latest first. */
  runs: TriedRun[];
}

/** A run that may be taken as a probe; a sustained one may confirm a search. */
export interface TriedRun {
  id: string;
  name: string;
  setup: string | null;
  says: string;
  sustained: boolean;
  /** Median rate, fps; of a sustained run what it closes at. */
  fps: number | null;
  /** Of full speed, where that is known; of a sustained run at its closing. */
  speed: number | null;
  /** Full speed as its frames show it. */
  holds: boolean | null;
  firstPlay: boolean;
  /** Marks of glitches, where any were made. */
  glitches: number | null;
  peakC: number | null;
  watts: number | null;
}
