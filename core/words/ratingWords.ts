import type { DeviceRating } from '../compare/rating';
import type { TurningPoints } from '../compare/turningPoints';
import type { RatingPart } from '../vocabulary';

/** The five measures as they are called. */
export const PART_WORDS: Record<RatingPart, string> = {
  pace: 'Pace',
  evenness: 'Evenness',
  stamina: 'Stamina',
  warmth: 'Warmth',
  drain: 'Drain',
};

const percent = (share: number): string => `${Math.round(share * 100)}\u00a0%`;

/**
 * A share of all weight as one says it.
 *
 * @example
 * sayShare(1 / 3); // 'a third'
 */
export function sayShare(share: number): string {
  const names: [number, string][] = [
    [1 / 4, 'a quarter'],
    [1 / 3, 'a third'],
    [1 / 2, 'half'],
    [2 / 3, 'two thirds'],
    [3 / 4, 'three quarters'],
  ];
  return names.find(([value]) => Math.abs(value - share) < 0.005)?.[1] ?? percent(share);
}

/**
 * How sure the order is, in two or three sentences.
 *
 * @param rated in the order of the devices, as the turning points number them
 * @returns sentences; none where no device has a figure
 * @shown Rating: how sure is the order, in words
 */
export function sayOrder(rated: readonly DeviceRating[], points: readonly TurningPoints[]): string[] {
  const ordered = rated.filter((device) => device.overall !== null).sort((a, b) => b.overall! - a.overall!);
  const [leader, second] = ordered;
  if (!leader) return [];
  if (!second) return [`${leader.name} is the only device.`];
  const sentences = [`${leader.name} is first in ${percent(leader.leads)} of all weightings.`];
  const rival = [...rated].sort((a, b) => b.leads - a.leads)[0]!;
  if (rival.name !== leader.name)
    sentences.push(
      `It is first with these weights, but ${rival.name} is first in more weightings overall (${percent(rival.leads)}).`,
    );
  const turns = points
    .flatMap((along) => turnsOf(along, rated))
    .sort((a, b) => a.distance - b.distance)
    .slice(0, 2);
  sentences.push(...turns.map(({ says }) => says));
  if (turns.length === 0) sentences.push(`${leader.name} stays first however you change a single weight.`);
  return sentences;
}

/** The nearest change of the lead on both sides of a weight. */
function turnsOf(
  { part, now, ranges }: TurningPoints,
  rated: readonly DeviceRating[],
): { says: string; distance: number }[] {
  const here = ranges.findIndex((range) => now >= range.from && now <= range.to);
  const turn = (place: number, more: boolean) => {
    const range = ranges[place];
    if (!range || here < 0) return [];
    const at = more ? range.from : range.to;
    return [
      {
        distance: Math.abs(at - now),
        says: `If ${PART_WORDS[part].toLowerCase()} counts for ${more ? 'more' : 'less'} than ${sayShare(at)} (now ${percent(now)}), ${rated[range.leader]!.name} is first.`,
      },
    ];
  };
  return [...turn(here + 1, true), ...turn(here - 1, false)];
}
