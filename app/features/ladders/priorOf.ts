import type { LadderDetail, LadderDoc } from '@pace-check/contract';
import type { LadderSearch } from '@pace-check/core';

type Prior = LadderDoc['prior'];
type Borrowed = LadderDetail['borrowed'];

/** What is thought beforehand: what stands in the ladder, or, until its first probe, what the others of its titles show. */
export function priorOf(doc: LadderDoc, borrowed: Borrowed): Prior {
  if (doc.prior !== null) return doc.prior;
  return borrowed !== null && doc.probes.length === 0 ? { from: null, ...borrowed } : null;
}

/** A ladder as core searches it. */
export const searchOf = (doc: LadderDoc, borrowed: Borrowed): LadderSearch => ({
  ...doc,
  prior: priorOf(doc, borrowed)?.weights ?? null,
});

/** A ladder with one probe more: with the first one, what was thought beforehand is written down. */
export const withProbe = (
  doc: LadderDoc,
  probe: LadderDoc['probes'][number],
  borrowed: Borrowed,
): LadderDoc => ({
  ...doc,
  prior: priorOf(doc, borrowed),
  probes: [...doc.probes, probe],
});

/** A prior that says nothing: whoever takes out what others show begins evenly. */
export const nothingKnown = ({ rungs }: LadderDoc): Prior => ({
  from: null,
  says: 'nothing: all settings are equally likely',
  weights: Array<number>(rungs.length + 1).fill(1),
});
