import { ACCESSORY_KINDS, COOLER_KINDS, INSTRUMENT_KINDS, type KitKind } from '@pace-check/contract';
import { DEMANDS, DEVICE_KINDS, NEEDS, TITLE_KINDS } from '@pace-check/core';

/** How a fact is asked for. */
export type FieldSpec = { field: string; label: string } & (
  | { as: 'text' | 'long' | 'number' | 'numbers' | 'names' | 'flag' }
  | { as: 'choice'; options: readonly string[]; words?: Record<string, string> }
);

export interface FieldGroup {
  title: string;
  fields: FieldSpec[];
}

const text = (field: string, label: string): FieldSpec => ({ field, label, as: 'text' });
const number = (field: string, label: string): FieldSpec => ({ field, label, as: 'number' });
const choice = (
  field: string,
  label: string,
  options: readonly string[],
  words?: Record<string, string>,
): FieldSpec => ({ field, label, as: 'choice', options, words });
const notes: FieldSpec = { field: 'notes', label: 'Notes', as: 'long' };

export const KIND_WORDS: Record<string, string> = {
  'pocket-pc': 'pocket PC',
  'power-meter': 'power meter',
  'pre-release': 'pre-release',
  'not-updated': 'not yet',
};

/** The full record of each kind, in the order in which a reviewer knows it. */
export const GROUPS: Record<Exclude<KitKind, 'setup'>, FieldGroup[]> = {
  device: [
    {
      title: 'What it is',
      fields: [
        choice('kind', 'Kind', DEVICE_KINDS, KIND_WORDS),
        text('chip', 'Chip'),
        text('graphics', 'Graphics unit'),
        text('successorOf', 'Successor of'),
        number('memoryGb', 'Memory, GB'),
        number('storageGb', 'Storage, GB'),
      ],
    },
    {
      title: 'Battery and power',
      fields: [
        number('batteryMah', 'Battery, mAh'),
        number('batteryV', 'Nominal, V'),
        number('batteryWh', 'or Battery, Wh'),
        number('chargerW', 'Charger, W'),
        number('powerW', 'Power limit, W'),
        number('boostW', 'Boost, W'),
      ],
    },
    { title: 'Body', fields: [text('back', 'Back'), text('cooling', 'Cooling')] },
    {
      title: 'System',
      fields: [
        text('system', 'System'),
        text('build', 'Build'),
        choice('firmware', 'Firmware', ['retail', 'pre-release']),
      ],
    },
    { title: 'Notes', fields: [notes] },
  ],
  accessory: [
    {
      title: 'What it is',
      fields: [
        choice('kind', 'Kind', ACCESSORY_KINDS),
        number('watts', 'Its own power, W'),
        text('material', 'Material (a case’s)'),
        { field: 'fits', label: 'Fits (names, with commas between)', as: 'names' },
        notes,
      ],
    },
    {
      title: 'As a cooler',
      fields: [
        choice('cools', 'Cools by', COOLER_KINDS),
        { field: 'modes', label: 'Settings (with commas between)', as: 'names' },
        text('contactSpot', 'Sits on (its contact spot)'),
        text('cannotSit', 'Cannot sit on, and why'),
        number('plateC', 'Plate at its coldest in open air, °C'),
      ],
    },
  ],
  instrument: [
    {
      title: 'What it is',
      fields: [
        choice('kind', 'Kind', INSTRUMENT_KINDS, KIND_WORDS),
        number('emissivity', 'Emissivity it is set to'),
        notes,
      ],
    },
  ],
  title: [
    {
      title: 'What it is',
      fields: [
        choice('kind', 'Kind', TITLE_KINDS),
        text('system', 'System (emulated)'),
        number('nativeFps', 'Native rate, fps (emulated)'),
      ],
    },
    {
      title: 'What it asks for',
      fields: [
        choice('demand', 'Demand', DEMANDS),
        choice('need', 'Need', Object.keys(NEEDS)),
        number('target', 'Usual target, fps'),
        { field: 'capsFps', label: 'Caps offered, fps (with commas between)', as: 'numbers' },
      ],
    },
    {
      title: 'How it is',
      fields: [
        text('version', 'Version'),
        choice('updateStage', 'Updated for the chip', ['updated', 'not-updated'], KIND_WORDS),
        choice('loggers', 'Loggers', ['allowed', 'blocked']),
        { field: 'ownCounter', label: 'Has a counter of its own', as: 'flag' },
        notes,
      ],
    },
  ],
};

/** A form keeps what is empty as null or ''; the schema knows facts that are there, or not. */
export function pruned(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(pruned);
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(
    Object.entries(value).flatMap(([key, one]) =>
      one === null || one === '' || one === undefined || (Array.isArray(one) && one.length === 0)
        ? []
        : [[key, pruned(one)]],
    ),
  );
}
