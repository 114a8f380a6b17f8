import type { Demand } from '../plan/problem';
import type { LadderAxis } from './search';

/** A search that ended, as far as it says something of its system. */
export interface SystemLadder {
  device: string;
  title: string;
  /** System that is emulated; null for a title of its own. */
  system: string | null;
  demand: Demand | null;
  axis: LadderAxis;
  /** The highest that holds; null where none does. */
  best: string | null;
  ended: boolean;
}

/** What most titles of a kind hold. */
export interface UsualRung {
  /** Null for none. */
  rung: string | null;
  /** Titles that hold it, of so many. */
  count: number;
  of: number;
}

/** What a system's titles hold on a device along one axis. */
export interface SystemRungs {
  device: string;
  system: string;
  axis: LadderAxis;
  /** Light and medium titles; null where none of them was searched. */
  easy: UsualRung | null;
  /** Heavy and notorious ones. */
  hard: UsualRung | null;
  /** Titles that hold another than most of their kind, or of which nobody noted what they ask. */
  exceptions: { title: string; rung: string | null }[];
}

const HARD: readonly (Demand | null)[] = ['heavy', 'notorious'];

/**
 * What a system's titles hold on a device: the easy ones' rung, the hard ones'
 * rung, and the exceptions.
 *
 * @returns one for each system, device and axis of which a search ended
 * @shown Ladders, and a review
 * @source docs/method.md, "Ladders"; common practice
 */
export function systemRungs(ladders: readonly SystemLadder[]): SystemRungs[] {
  const groups = new Map<string, SystemLadder[]>();
  for (const one of ladders) {
    if (one.system === null || !one.ended) continue;
    const key = [one.device, one.system, one.axis].join('\n');
    groups.set(key, [...(groups.get(key) ?? []), one]);
  }
  return [...groups.values()].map((group) => {
    const [{ device, system, axis }] = group as [SystemLadder, ...SystemLadder[]];
    const easy = group.filter(({ demand }) => demand !== null && !HARD.includes(demand));
    const hard = group.filter(({ demand }) => HARD.includes(demand));
    const rest = group.filter(({ demand }) => demand === null);
    return {
      device,
      system: system!,
      axis,
      easy: usualOf(easy),
      hard: usualOf(hard),
      exceptions: [...others(easy), ...others(hard), ...rest].map(({ title, best }) => ({
        title,
        rung: best,
      })),
    };
  });
}

/** What most of them hold; of two that as many hold, the one that was found first. */
function usualOf(group: readonly SystemLadder[]): UsualRung | null {
  const counts = new Map<string | null, number>();
  for (const { best } of group) counts.set(best, (counts.get(best) ?? 0) + 1);
  const [usual] = [...counts].sort((a, b) => b[1] - a[1]);
  return usual ? { rung: usual[0], count: usual[1], of: group.length } : null;
}

const others = (group: readonly SystemLadder[]): SystemLadder[] => {
  const usual = usualOf(group);
  return group.filter(({ best }) => best !== usual!.rung);
};

/** "Lumo 64 on Velm 5, internal resolution: easy titles hold 4× (3 of 4), hard ones 2×; but Glass Canyon 3×." */
export function saySystemRungs({ device, system, axis, easy, hard, exceptions }: SystemRungs): string {
  const said = ({ rung, count, of }: UsualRung): string =>
    `${rung ?? 'none'}${count === of ? '' : ` (${count} of ${of})`}`;
  const kinds = [
    easy === null ? null : `easy titles: ${said(easy)}`,
    hard === null ? null : `${easy === null ? 'hard titles hold' : 'hard ones'} ${said(hard)}`,
  ].filter(Boolean);
  const but = exceptions.map(({ title, rung }) => `${title} ${rung ?? 'none'}`);
  const rest =
    but.length === 0 ? '' : kinds.length === 0 ? but.join(', ') : `; exceptions: ${but.join(', ')}`;
  return `${system} on ${device}, ${axis}: ${kinds.join(', ')}${rest}.`;
}
