import type { EndReason } from '../vocabulary';

/** What the day of a card hears of a run that is recorded for one of its steps. */

/** How a run of the day was over. */
export type HowEnded = 'done' | 'crashed' | 'skipped';

export const howEnded = (reason: EndReason): HowEnded =>
  reason === 'crash' ? 'crashed' : reason === 'would-not-start' ? 'skipped' : 'done';

/** A day that lies so far from the clock goes by its plan, minutes. */
const ON_THE_DAY_MIN = 4 * 60;

/**
 * The minute of the day at which something happened to a run: by the desk's
 * clock, where the day goes by it; a day that is practised, or that lies
 * elsewhere in the calendar, goes by its plan.
 *
 * @param afterMin minutes since the run's start, on its own clock
 * @param plannedMin where the day has the run start, minutes from midnight
 * @param deskMin what the desk's clock shows, minutes from midnight; null where there is no desk
 * @returns minutes from midnight, whole
 * @source docs/method.md, "The day's plan"
 * @example
 * dayMinute(30, 540, 575, 1); // 575
 */
export function dayMinute(
  afterMin: number,
  plannedMin: number,
  deskMin: number | null,
  speed: number,
): number {
  const byClock =
    deskMin !== null && speed === 1 && Math.abs(deskMin - afterMin - plannedMin) < ON_THE_DAY_MIN;
  return Math.round(byClock ? deskMin : plannedMin + afterMin);
}

interface Noted {
  id: string;
  kind: string;
}

/** A change of what was noted: something more, or one of them taken back. */
export type NoteChange<E extends Noted> = E | { id: string; kind: 'take-back'; event: string };

/**
 * What is noted of a day after a change; what is noted already stays as it is.
 *
 * @example
 * changeNotes([{ id: 'a', kind: 'started' }], { id: 'x', kind: 'take-back', event: 'a' }); // []
 */
export function changeNotes<E extends Noted>(notes: E[], change: NoteChange<E>): E[] {
  if ('event' in change && change.kind === 'take-back') return notes.filter((one) => one.id !== change.event);
  return notes.some((one) => one.id === change.id) ? notes : [...notes, change as E];
}
