import { samePair, USUAL_PAIRS, type SetPair, type SetupPair, type TitleKind } from '@pace-check/core';

/** What a row of the form stands for. */
export interface PairRow {
  key: string;
  unit: string;
  /** As it is typed; empty where nothing is set. */
  value: string;
  /** It is among what is usually set: its name and unit stand. */
  usual: boolean;
  /** What the setup that this one is derived from says, if anything. */
  base: SetPair | null;
  /** It is taken out of what it is derived from. */
  leftOut: boolean;
}

/** Rows of a setup: what its title's kind usually sets, then what has a name of its own, in the order that it was given. */
export function pairRows(
  pairs: readonly SetupPair[],
  base: readonly SetPair[],
  kind: TitleKind | undefined,
): PairRow[] {
  const usual = kind ? USUAL_PAIRS[kind] : [];
  const own = pairs.filter(({ key }) => !usual.some((one) => samePair(one.key, key)));
  const further = base.filter(({ key }) => ![...usual, ...own].some((one) => samePair(one.key, key)));
  return [...usual, ...own, ...further].map(({ key, unit }) => {
    const set = pairs.find((one) => samePair(one.key, key));
    const from = base.find((one) => samePair(one.key, key)) ?? null;
    return {
      key,
      unit: set?.unit ?? from?.unit ?? unit,
      value: set?.value ?? '',
      usual: usual.some((one) => samePair(one.key, key)),
      base: from,
      leftOut: set !== undefined && set.value === null,
    };
  });
}

/**
 * Pairs with one of them set, taken back (empty) or left out (null); what was there keeps its place.
 *
 * @param base what it is derived from: only there something can be left out
 */
export function withPair(
  pairs: readonly SetupPair[],
  { key, value, unit }: SetupPair,
  base: readonly SetPair[] = [],
): SetupPair[] {
  const kept = value === '' || (value === null && !base.some((one) => samePair(one.key, key)));
  if (kept) return pairs.filter((one) => !samePair(one.key, key));
  if (!pairs.some((one) => samePair(one.key, key))) return [...pairs, { key, value, unit }];
  return pairs.map((one) => (samePair(one.key, key) ? { key: one.key, value, unit } : one));
}
