import type { LadderDoc, LadderSummary } from '@pace-check/contract';
import { count } from '../../ui/figures';

/** Ladders that are climbed together, the latest first. */
export function severalOf(all: readonly LadderSummary[]): LadderSummary[][] {
  const groups = new Map<string, LadderSummary[]>();
  for (const one of all)
    if (one.together !== null) groups.set(one.together, [...(groups.get(one.together) ?? []), one]);
  return [...groups.values()];
}

/** "Lumo 64 on Velm 5", or how many titles where they are of several systems. */
export function nameOf(own: readonly LadderSummary[]): string {
  const [first] = own as [LadderSummary, ...LadderSummary[]];
  const one = first.system !== null && own.every(({ system }) => system === first.system);
  return `${one ? first.system : count(own.length, 'title')} on ${first.device}`;
}

/**
 * The same search for another title: its rungs and what else is set, nothing that was seen.
 *
 * @param full full speed of a title of which the kit knows none, fps; null where nobody said it
 */
export function forTitle(
  doc: LadderDoc,
  title: string,
  known: readonly { name: string; facts: { nativeFps?: number | undefined } }[] = [],
  full: number | null = null,
): LadderDoc {
  const native = known.find((one) => one.name.toLowerCase() === title.toLowerCase())?.facts.nativeFps;
  return { ...doc, title, scene: '', full: native ?? full, prior: null, probes: [], confirmed: null };
}
