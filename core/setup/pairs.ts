import type { TitleKind } from '../plan/templates';

/** One thing that is set, in the words and the unit that it was given in. */
export interface SetupPair {
  key: string;
  /** Null says that it is not set here, though it is in the setup that this one is derived from. */
  value: string | null;
  /** Empty for none. */
  unit: string;
}

/** What is set and to what: a pair that is there. */
export type SetPair = SetupPair & { value: string };

interface UsualPair {
  key: string;
  unit: string;
}
const plain = (key: string): UsualPair => ({ key, unit: '' });
const CAP: UsualPair = { key: 'cap', unit: 'fps' };
const POWER: UsualPair = { key: 'power limit', unit: 'W' };

/** What is usually set, by the kind of title; anything else has a name of its own. */
export const USUAL_PAIRS: Record<TitleKind, readonly UsualPair[]> = {
  native: [
    plain('tier'),
    plain('resolution'),
    { key: 'render scale', unit: '%' },
    plain('upscaler'),
    plain('graphics interface'),
    CAP,
    POWER,
  ],
  emulated: [
    plain('system'),
    plain('emulator'),
    plain('version'),
    plain('backend'),
    { key: 'internal resolution', unit: '×' },
    plain('filter'),
    plain('accuracy'),
    plain('hacks'),
    CAP,
    POWER,
  ],
  translated: [
    plain('layer'),
    plain('version'),
    plain('CPU preset'),
    plain('graphics driver'),
    plain('API wrapper'),
    plain('resolution'),
    plain('container'),
    CAP,
    POWER,
  ],
  streamed: [
    plain('service'),
    plain('link'),
    { key: 'bit rate', unit: 'Mbit/s' },
    plain('codec'),
    plain('resolution'),
    CAP,
  ],
  synthetic: [plain('tier'), plain('version')],
};

/** Names of things that are set differ in case at most. */
export const samePair = (a: string, b: string): boolean => a.toLowerCase() === b.toLowerCase();

/** "2 ×", "Lantern" */
export const sayValue = ({ value, unit }: SetPair): string => (unit === '' ? value : `${value}\u00a0${unit}`);

/** "internal resolution 2 ×" */
export const sayPair = (pair: SetPair): string => `${pair.key} ${sayValue(pair)}`;

/** The number that a pair holds; null where it is not set, is no number above 0, or is said in another unit. */
function pairNumber(pairs: readonly SetupPair[], key: string, units: readonly string[]): number | null {
  const pair = pairs.find((one) => samePair(one.key, key));
  if (!pair || pair.value === null || !(pair.unit === '' || units.includes(pair.unit))) return null;
  const number = Number(pair.value.trim().replace(',', '.'));
  return Number.isFinite(number) && number > 0 ? number : null;
}

/**
 * The frame cap of a setup, fps; null where none is set.
 *
 * @example
 * capOf([{ key: 'Cap', value: '60', unit: 'fps' }]); // 60
 */
export const capOf = (pairs: readonly SetupPair[]): number | null => pairNumber(pairs, 'cap', ['fps', 'Hz']);

/**
 * The cap that a setup's name tells, fps; null where it tells none.
 *
 * @example
 * capNamed('High, cap 60'); // 60
 */
export function capNamed(name: string): number | null {
  const found = /\bcap(?:ped)?(?:\s+(?:at|to))?\s*(\d{2,3})\b|\b(\d{2,3})\s*(?:fps\s+)?cap\b/i.exec(name);
  const cap = Number(found?.[1] ?? found?.[2] ?? 0);
  return cap >= LEAST_CAP ? cap : null;
}
/** Nobody caps lower, fps. */
const LEAST_CAP = 15;

/** The power limit of a setup, W; null where none is set. */
export const powerLimitOf = (pairs: readonly SetupPair[]): number | null =>
  pairNumber(pairs, 'power limit', ['W']);
