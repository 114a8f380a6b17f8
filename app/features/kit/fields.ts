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
  'not-updated': 'not yet released',
};

/** The full record of each kind, in the order in which a reviewer knows it. */
export const GROUPS: Record<Exclude<KitKind, 'setup'>, FieldGroup[]> = {
  device: [
    {
      title: 'Type and model',
      fields: [
        choice('kind', 'Kind', DEVICE_KINDS, KIND_WORDS),
        text('chip', 'Chip'),
        text('graphics', 'Graphics processor'),
        text('successorOf', 'Successor to'),
        number('memoryGb', 'Memory, GB'),
        number('storageGb', 'Storage, GB'),
      ],
    },
    {
      title: 'Battery and power',
      fields: [
        number('batteryMah', 'Battery, mAh'),
        number('batteryV', 'Nominal voltage, V'),
        number('batteryWh', 'Battery energy, Wh'),
        number('chargerW', 'Charger, W'),
        number('powerW', 'Power limit, W'),
        number('boostW', 'Boost, W'),
      ],
    },
    { title: 'Body and cooling', fields: [text('back', 'Back'), text('cooling', 'Cooling')] },
    {
      title: 'Software',
      fields: [
        text('system', 'Operating system'),
        text('build', 'Build'),
        choice('firmware', 'Firmware', ['retail unit', 'pre-release']),
      ],
    },
    { title: 'Notes', fields: [notes] },
  ],
  accessory: [
    {
      title: 'Type and model',
      fields: [
        choice('kind', 'Kind', ACCESSORY_KINDS),
        number('watts', 'Own power use, W'),
        text('material', 'Material (for a case)'),
        { field: 'fits', label: 'Fits these devices (separate with commas)', as: 'names' },
        notes,
      ],
    },
    {
      title: 'Cooler details',
      fields: [
        choice('cools', 'Cooling method', COOLER_KINDS),
        { field: 'modes', label: 'Settings (separate with commas)', as: 'names' },
        text('contactSpot', 'Contact spot'),
        text('cannotSit', 'Does not fit on, and why'),
        number('plateC', 'Lowest plate temperature in open air, °C'),
      ],
    },
  ],
  instrument: [
    {
      title: 'Type and model',
      fields: [
        choice('kind', 'Kind', INSTRUMENT_KINDS, KIND_WORDS),
        number('emissivity', 'Emissivity setting'),
        notes,
      ],
    },
  ],
  title: [
    {
      title: 'Type and model',
      fields: [
        choice('kind', 'Kind', TITLE_KINDS),
        text('system', 'Original system (if emulated)'),
        number('nativeFps', 'Native rate, fps (if emulated)'),
      ],
    },
    {
      title: 'Demands',
      fields: [
        choice('demand', 'Demand', DEMANDS),
        choice('need', 'Title type', Object.keys(NEEDS)),
        number('target', 'Usual target, fps'),
        { field: 'capsFps', label: 'Frame caps offered, fps (separate with commas)', as: 'numbers' },
      ],
    },
    {
      title: 'Version and logging',
      fields: [
        text('version', 'Version'),
        choice('updateStage', 'Updated for this chip', ['updated', 'not-updated'], KIND_WORDS),
        choice('loggers', 'Do loggers work?', ['allowed', 'blocked']),
        { field: 'ownCounter', label: 'Has its own counter', as: 'flag' },
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
