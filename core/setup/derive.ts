import { samePair, type SetPair, type SetupPair } from './pairs';

/** A setup as it is written down: what differs from the one that it is derived from, or all of it. */
export interface WrittenSetup {
  name: string;
  /** Another setup of the same title; null for one that stands alone. */
  from: string | null;
  pairs: readonly SetupPair[];
}

/** A setup that cannot be told in full. */
export class SetupError extends Error {
  override name = 'SetupError';
}

/**
 * A setup in full: what it is derived from, with what differs put in its place
 * and what is new behind it.
 *
 * @param setups those of one title
 * @throws SetupError where one that it is derived from is not there, or it comes back to itself
 * @example
 * const setups = [
 *   { name: 'a', from: null, pairs: [{ key: 'backend', value: 'first', unit: '' }] },
 *   { name: 'b', from: 'a', pairs: [{ key: 'backend', value: 'second', unit: '' }] },
 * ];
 * wholeSetup('b', setups); // [{ key: 'backend', value: 'second', unit: '' }]
 */
export function wholeSetup(name: string, setups: readonly WrittenSetup[]): SetPair[] {
  return lineOf(name, setups)
    .reverse()
    .reduce<SetPair[]>((pairs, one) => putOn(pairs, one.pairs), []);
}

/** The setup, what it is derived from, and so on. */
function lineOf(name: string, setups: readonly WrittenSetup[]): WrittenSetup[] {
  const line: WrittenSetup[] = [];
  for (let next: string | null = name; next !== null; next = line.at(-1)!.from) {
    const wanted: string = next;
    const found = setups.find((one) => samePair(one.name, wanted));
    if (!found)
      throw new SetupError(
        line.length === 0
          ? `There is no setup “${wanted}”`
          : `“${line.at(-1)!.name}” is based on “${wanted}”, which is not one of this title’s setups`,
      );
    if (line.includes(found))
      throw new SetupError(
        `“${found.name}” is based on itself${
          line.length > 1
            ? `, over ${line
                .slice(1)
                .map((one) => `“${one.name}”`)
                .join(', ')}`
            : ''
        }`,
      );
    line.push(found);
  }
  return line;
}

/** Pairs with others put in their place; what is new comes last, what is left out goes. */
function putOn(pairs: readonly SetPair[], own: readonly SetupPair[]): SetPair[] {
  const found = (key: string): SetupPair | undefined => own.find((one) => samePair(one.key, key));
  return [
    ...pairs.map((pair) => found(pair.key) ?? pair),
    ...own.filter((one) => !pairs.some((pair) => samePair(pair.key, one.key))),
  ].filter((pair): pair is SetPair => pair.value !== null);
}

/**
 * Setups as they are when one of them goes: those derived from it take over what
 * it said, so that each of them is in full what it was.
 *
 * @returns those that change
 */
export function withoutSetup(name: string, setups: readonly WrittenSetup[]): WrittenSetup[] {
  const gone = setups.find((one) => samePair(one.name, name));
  if (!gone) return [];
  return setups
    .filter((one) => one.from !== null && samePair(one.from, name))
    .map((one) => ({
      ...one,
      from: gone.from,
      pairs: [
        ...gone.pairs.map((pair) => one.pairs.find((own) => samePair(own.key, pair.key)) ?? pair),
        ...one.pairs.filter((own) => !gone.pairs.some((pair) => samePair(pair.key, own.key))),
      ],
    }));
}

/** One thing that two setups do not have alike, in words; null where one does not set it. */
export interface SetupDifference {
  key: string;
  first: string | null;
  second: string | null;
}

/**
 * What differs between two setups, in the order of the first; what only the second sets comes last.
 *
 * @example
 * setupDifference([{ key: 'cap', value: '60', unit: 'fps' }], []); // [{ key: 'cap', first: '60\u00a0fps', second: null }]
 */
export function setupDifference(first: readonly SetPair[], second: readonly SetPair[]): SetupDifference[] {
  const said = (pairs: readonly SetPair[], key: string): string | null => {
    const pair = pairs.find((one) => samePair(one.key, key));
    return pair ? [pair.value, pair.unit].filter(Boolean).join('\u00a0') : null;
  };
  const keys = [
    ...first.map(({ key }) => key),
    ...second.map(({ key }) => key).filter((key) => !first.some((one) => samePair(one.key, key))),
  ];
  return keys
    .map((key) => ({ key, first: said(first, key), second: said(second, key) }))
    .filter((one) => one.first !== one.second);
}
