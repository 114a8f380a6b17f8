import { BESIDE, type RunPreflight } from '@pace-check/core';
import { preflight, type Preflight } from './kit';

/** Words of the run file's header for those of preflight, where they differ. */
const WORDS = {
  power: { field: 'charging', words: { battery: 'on battery', plugged: 'plugged in' } },
  mode: { field: 'performanceMode', words: { usual: 'as delivered' } },
  hold: {
    field: 'hold',
    words: { hands: 'in the hands', stand: 'on a stand', controller: 'with a controller' },
  },
} as const;

/** Facts that have the same name and words in both. */
const SAME = [
  'brightness',
  'case',
  'cooler',
  'network',
  'titleVersion',
  'layer',
  'driver',
  'system',
  'pixels',
  'cap',
  'coolerName',
  'coolerMode',
  'coolerPlace',
  'plateC',
  'humidity',
  'humidityBy',
  'screen',
  'outsidePixels',
  'outsideHz',
  ...BESIDE,
] as const;

/**
 * What a run file's header says of the conditions, as preflight has it.
 *
 * @returns the conditions, and how many facts have words that are not known here
 */
export function preflightOfHeader(stated: RunPreflight | undefined): {
  preflight: Preflight;
  passedOver: number;
} {
  const known: Record<string, unknown> = {};
  let passedOver = 0;
  const take = (field: keyof Preflight, value: unknown): void => {
    if (value === undefined) return;
    const checked = preflight.shape[field].safeParse(value);
    if (checked.success) known[field] = checked.data;
    else passedOver++;
  };
  for (const name of SAME) take(name, stated?.[name]);
  for (const [name, { field, words }] of Object.entries(WORDS)) {
    const word = stated?.[name as keyof typeof WORDS];
    take(field, word === undefined ? undefined : ((words as Record<string, string>)[word] ?? word));
  }
  return { preflight: known as Preflight, passedOver };
}

/** Conditions of a run as a run file's header states them; undefined where there are none. */
export function headerOfPreflight(stated: Preflight): RunPreflight | undefined {
  const header: Record<string, unknown> = {};
  for (const name of SAME) if (stated[name] !== undefined) header[name] = stated[name];
  for (const [name, { field, words }] of Object.entries(WORDS)) {
    const word = stated[field];
    if (word === undefined) continue;
    header[name] = Object.entries(words).find(([, ours]) => ours === word)?.[0] ?? word;
  }
  return Object.keys(header).length === 0 ? undefined : (header as RunPreflight);
}
