import {
  NEED_WORDS,
  samePair,
  STEP_NEEDS,
  type Demand,
  type DeviceKind,
  type Need,
  type SetPair,
  type TitleKind,
  type WrittenSetup,
} from '@pace-check/core';
import * as z from 'zod';
import { number } from './numbers';
import { trimmed } from './text';
import { name, spotPlace, type NamedItem } from './names';

/**
 * The kit: devices, what goes with them, titles and their setups. A record is
 * a name and facts; every fact may be unknown, so that a name is enough to begin.
 */

const words = trimmed(400).min(1);
const longWords = trimmed(4000);
const amount = (most: number, unit: string): z.ZodNumber =>
  number('enter a number').positive(`above 0 ${unit}`).max(most, `at most ${most} ${unit}`);

export const screen = z.strictObject({
  name: words.optional(),
  inches: amount(40, 'in').optional(),
  widthPx: amount(16_000, 'px').int().optional(),
  heightPx: amount(16_000, 'px').int().optional(),
  refreshHz: z.array(amount(1000, 'Hz')).max(12, 'at most 12 rates').optional(),
  adaptive: z.boolean().optional(),
});
export type Screen = z.infer<typeof screen>;

export const deviceFacts = z.strictObject({
  kind: (z.enum(['phone', 'foldable', 'tablet', 'pocket-pc']) satisfies z.ZodType<DeviceKind>).optional(),
  chip: words.optional(),
  graphics: words.optional(),
  memoryGb: amount(4096, 'GB').optional(),
  storageGb: amount(65_536, 'GB').optional(),
  batteryMah: amount(100_000, 'mAh').optional(),
  batteryV: amount(60, 'V').optional(),
  batteryWh: amount(1000, 'Wh').optional(),
  screens: z.array(screen).max(4, 'at most 4 screens').optional(),
  back: words.optional(),
  cooling: words.optional(),
  powerW: amount(500, 'W').optional(),
  boostW: amount(500, 'W').optional(),
  system: words.optional(),
  build: words.optional(),
  firmware: z.enum(['retail', 'pre-release']).optional(),
  /** The device of the same maker's line that it follows, by its name. */
  successorOf: words.optional(),
  chargerW: amount(500, 'W').optional(),
  /** The spot over the chip. */
  chipSpot: words.optional(),
  notes: longWords.optional(),
});
export type DeviceFacts = z.infer<typeof deviceFacts>;

export const ACCESSORY_KINDS = ['case', 'cooler', 'controller', 'charger'] as const;
/** What a cooler cools by: moving air, a cold plate, water. */
export const COOLER_KINDS = ['fan', 'plate', 'water'] as const;
export const accessoryFacts = z.strictObject({
  kind: z.enum(ACCESSORY_KINDS).optional(),
  /** What a cooler cools by. */
  cools: z.enum(COOLER_KINDS).optional(),
  /** Its settings, as its maker names them. */
  modes: z.array(words).max(12, 'at most 12 settings').optional(),
  /** Where a cooler sits. */
  contactSpot: words.optional(),
  /** Where it cannot sit, and why: a camera, a flap, vents. */
  cannotSit: words.optional(),
  /** How cold its plate gets in open air. */
  plateC: number('enter a number').min(-60, 'at least −60').max(80, 'at most 80').optional(),
  /** Of a case. */
  material: words.optional(),
  /** Devices that it fits, by name. */
  fits: z.array(name).max(60, 'at most 60 devices').optional(),
  watts: amount(500, 'W').optional(),
  notes: longWords.optional(),
});
export type AccessoryFacts = z.infer<typeof accessoryFacts>;

export const INSTRUMENT_KINDS = ['infrared', 'power-meter', 'counter', 'capture'] as const;
export const instrumentFacts = z.strictObject({
  kind: z.enum(INSTRUMENT_KINDS).optional(),
  emissivity: number('enter a number').min(0.01, 'at least 0.01').max(1, 'at most 1').optional(),
  notes: longWords.optional(),
});
export type InstrumentFacts = z.infer<typeof instrumentFacts>;

/** A named place or load of a title. */
export const scene = z.strictObject({
  name: words,
  weight: z.enum(['light', 'hard']).optional(),
});
export type Scene = z.infer<typeof scene>;

export const titleFacts = z.strictObject({
  kind: (
    z.enum(['native', 'emulated', 'translated', 'streamed', 'synthetic']) satisfies z.ZodType<TitleKind>
  ).optional(),
  system: words.optional(),
  nativeFps: amount(1000, 'fps').optional(),
  demand: (z.enum(['light', 'medium', 'heavy', 'notorious']) satisfies z.ZodType<Demand>).optional(),
  need: (z.enum(NEED_WORDS) satisfies z.ZodType<Need>).optional(),
  /** Frames per second that it usually has to reach. */
  target: amount(1000, 'fps').optional(),
  version: words.optional(),
  updateStage: z.enum(['updated', 'not-updated']).optional(),
  capsFps: z.array(amount(1000, 'fps')).max(12, 'at most 12 caps').optional(),
  loggers: z.enum(['allowed', 'blocked']).optional(),
  ownCounter: z.boolean().optional(),
  scenes: z.array(scene).max(30, 'at most 30 scenes').optional(),
  notes: longWords.optional(),
});
export type TitleFacts = z.infer<typeof titleFacts>;

/** One thing that is set, in the words, the unit and the order that it was given in. */
const setupPair = z.strictObject({
  key: trimmed(60).min(1, 'enter a name'),
  /** Null: not set here, though it is in the setup that this one is derived from. */
  value: trimmed(400).min(1, 'enter a value').nullable().default(null),
  unit: trimmed(20).default(''),
});

const setupPairs = z
  .array(setupPair)
  .max(60, 'at most 60 settings')
  .superRefine((pairs, context) =>
    pairs.forEach(({ key }, i) => {
      if (pairs.findIndex((one) => samePair(one.key, key)) < i)
        context.addIssue({
          code: 'custom',
          path: [i, 'key'],
          message: `“${key}” is listed twice: remove one`,
        });
    }),
  );

/** One thing to do, so that a setup is what it is. */
const recipeStep = z.strictObject({
  says: trimmed(1000).min(1, 'enter what to do'),
  undo: trimmed(1000).default(''),
  source: trimmed(400).default(''),
  dated: z.iso.date('enter a date, YYYY-MM-DD').nullable().default(null),
  needs: z.array(z.enum(STEP_NEEDS)).max(STEP_NEEDS.length).default([]),
});

/** Facts of a setup: all that is set, or what differs from another one of its title. */
export const setupFacts = z.strictObject({
  /** The setup that it is derived from, by its name. */
  from: name.optional(),
  pairs: setupPairs.optional(),
  steps: z.array(recipeStep).max(40, 'at most 40 steps').optional(),
  notes: longWords.optional(),
});
export type SetupFacts = z.infer<typeof setupFacts>;

/** A setup as core derives it. */
export const writtenSetup = ({ name, facts }: { name: string; facts: SetupFacts }): WrittenSetup => ({
  name,
  from: facts.from ?? null,
  pairs: facts.pairs ?? [],
});

/** How an earlier version called what is set, with the unit that it had. */
export const EARLIER_FACTS: Record<string, { key: string; unit: string }> = {
  tier: { key: 'tier', unit: '' },
  capFps: { key: 'cap', unit: 'fps' },
  emulator: { key: 'emulator', unit: '' },
  version: { key: 'version', unit: '' },
  backend: { key: 'backend', unit: '' },
  internalResolution: { key: 'internal resolution', unit: '×' },
  hacks: { key: 'hacks', unit: '' },
  layer: { key: 'layer', unit: '' },
  cpuPreset: { key: 'CPU preset', unit: '' },
  graphicsDriver: { key: 'graphics driver', unit: '' },
  apiWrapper: { key: 'API wrapper', unit: '' },
  resolution: { key: 'resolution', unit: '' },
  service: { key: 'service', unit: '' },
  link: { key: 'link', unit: '' },
  bitRateMbps: { key: 'bit rate', unit: 'Mbit/s' },
};

/** The kinds of records, as they are called in addresses and files. */
export const KIT_KINDS = ['device', 'accessory', 'instrument', 'title', 'setup'] as const;
export type KitKind = (typeof KIT_KINDS)[number];

const spots = z.array(spotPlace).max(60, 'at most 60 spots');

export const newRecord = {
  device: z.strictObject({ name, facts: deviceFacts.default({}), spots: spots.optional() }),
  accessory: z.strictObject({ name, facts: accessoryFacts.default({}) }),
  instrument: z.strictObject({ name, facts: instrumentFacts.default({}) }),
  title: z.strictObject({ name, facts: titleFacts.default({}) }),
  setup: z.strictObject({ name, title: name, facts: setupFacts.default({}) }),
} satisfies Record<KitKind, z.ZodType>;
export type NewRecord<K extends KitKind = KitKind> = z.infer<(typeof newRecord)[K]>;

/** A record in the place of another, and how that was when it was opened: what others changed since stays. */
export type RecordChange<K extends KitKind = KitKind> = NewRecord<K> & { base?: NewRecord<K> };

/** A setup of a title that a device would not take. */
export const newRefusal = z.strictObject({
  device: name,
  title: name,
  setup: name.nullable(),
  says: longWords.default(''),
});
export type NewRefusal = z.infer<typeof newRefusal>;

export interface KitDevice extends NamedItem {
  facts: DeviceFacts;
  spots: z.infer<typeof spotPlace>[];
  /** Runs of it, so that nobody deletes what is in use. */
  runs: number;
}
export interface KitAccessory extends NamedItem {
  facts: AccessoryFacts;
}
export interface KitInstrument extends NamedItem {
  facts: InstrumentFacts;
}
export interface KitTitle extends NamedItem {
  facts: TitleFacts;
  runs: number;
}
export interface KitSetup extends NamedItem {
  titleId: string;
  facts: SetupFacts;
  /** All that is set, with what it is derived from. */
  whole: SetPair[];
}
export interface Refusal extends NewRefusal {
  id: string;
}

export interface Kit {
  devices: KitDevice[];
  accessories: KitAccessory[];
  instruments: KitInstrument[];
  titles: KitTitle[];
  setups: KitSetup[];
  refusals: Refusal[];
}

/** What a file of the kit did. */
export interface KitImported {
  added: number;
  updated: number;
  unchanged: number;
}

/** Energy of a device's battery: as stated, else its capacity times its nominal voltage. */
export function batteryWhOf({ batteryWh, batteryMah, batteryV }: DeviceFacts): number | null {
  if (batteryWh !== undefined) return batteryWh;
  return batteryMah === undefined ? null : (batteryMah * (batteryV ?? USUAL_CELL_V)) / 1000;
}

/** Nominal voltage of today's phone cells; from memory. */
export const USUAL_CELL_V = 3.87;

/** Conditions of a run, as preflight asks for them. */
export const preflight = z.strictObject({
  roomC: number('enter a number').min(-60, 'at least −60').max(80, 'at most 80').optional(),
  brightness: number('enter a number').min(0, 'at least 0').max(100, 'at most 100').optional(),
  refreshMode: z.enum(['fixed', 'adaptive']).optional(),
  performanceMode: z.enum(['as delivered', 'performance', 'saving', 'boost']).optional(),
  case: z.enum(['off', 'on']).optional(),
  cooler: z.enum(['without', 'with']).optional(),
  charging: z.enum(['on battery', 'plugged in']).optional(),
  network: z.enum(['offline', 'wireless', 'mobile', 'cable']).optional(),
  quiet: z.boolean().optional(),
  orientation: z.enum(['landscape', 'portrait']).optional(),
  hold: z.enum(['in the hands', 'on a stand', 'with a controller']).optional(),
  firstPlay: z.boolean().optional(),
  /** Which of the device's screens was used, by its name. */
  screen: words.optional(),
  /** Of an outside screen that the device was docked to: width times height, and its rate. */
  outsidePixels: amount(100_000_000, 'pixels').int('enter a whole number').optional(),
  outsideHz: amount(1000, 'Hz').optional(),
  /** Which cooler, by its name, how it was set and where it sat. */
  coolerName: words.optional(),
  coolerMode: words.optional(),
  coolerPlace: words.optional(),
  /** Its plate, as read. */
  plateC: number('enter a number').min(-60, 'at least −60').max(80, 'at most 80').optional(),
  humidity: number('enter a number').min(0, 'at least 0').max(100, 'at most 100').optional(),
  /** Where the humidity is known from. */
  humidityBy: words.optional(),
  titleVersion: words.optional(),
  layer: words.optional(),
  driver: words.optional(),
  system: words.optional(),
  /** Drawn, width times height. */
  pixels: amount(100_000_000, 'pixels').int('enter a whole number').optional(),
  /** Frame cap that was set. */
  cap: amount(1000, 'fps').optional(),
  /** Facts that stand beside the figures, as they were said. */
  storage: words.optional(),
  noise: words.optional(),
  touchMapping: words.optional(),
  lostSaves: words.optional(),
  pictureFit: words.optional(),
  withGenerated: words.optional(),
  withoutGenerated: words.optional(),
});
export type Preflight = z.infer<typeof preflight>;
export type PreflightField = keyof Preflight;
