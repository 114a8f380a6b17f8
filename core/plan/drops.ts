import type { DaySchedule } from './daySchedule';
import { Bounds } from './bound';
import { quickest, type Allowance } from './exact';
import { beam, type Layout } from './search';

/** Which tasks are kept, and how they are laid out. */
export interface Choice {
  kept: boolean[];
  layout: Layout;
  /** No choice loses less, and none that loses as little ends earlier. */
  proven: boolean;
}

/** Days of at most so many tasks are tried out whole. */
const SMALL = 12;
/** Standings looked at in all for one. */
const SMALL_ALLOWANCE = 60_000;

const inTime = ({ finishMin, stuck }: Layout, limitMin: number): boolean =>
  stuck === 0 && finishMin <= limitMin;

/** A choice holds what its tasks come after, and leaves out the later repeats first. */
export function closed(schedule: DaySchedule, kept: readonly boolean[]): boolean {
  const place = new Map(schedule.tasks.map((task, i) => [task.id, i]));
  return schedule.tasks.every((task, i) => !kept[i] || task.after.every((id) => kept[place.get(id) ?? i]));
}

/** Leaves out, too, what comes after something that is left out. */
function close(schedule: DaySchedule, kept: boolean[]): boolean[] {
  const closing = kept.slice();
  const place = new Map(schedule.tasks.map((task, i) => [task.id, i]));
  for (let changed = true; changed;) {
    changed = false;
    schedule.tasks.forEach((task, i) => {
      if (!closing[i] || task.after.every((id) => closing[place.get(id) ?? i])) return;
      closing[i] = false;
      changed = true;
    });
  }
  return closing;
}

/** What leaving tasks out costs. */
export const lost = (schedule: DaySchedule, kept: readonly boolean[]): number =>
  schedule.tasks.reduce((sum, task, i) => sum + (kept[i] ? 0 : task.wanted), 0);

/** The best choice of a small day, by trying all in the order of what they lose; null where that took too long. */
export function smallChoice(schedule: DaySchedule, limitMin: number): Choice | null {
  const n = schedule.tasks.length;
  if (n > SMALL) return null;
  const allowance: Allowance = { left: SMALL_ALLOWANCE };
  const choices = Array.from({ length: 2 ** n }, (_, mask) =>
    schedule.tasks.map((_task, i) => (mask & (1 << i)) === 0),
  )
    .filter((kept) => closed(schedule, kept))
    .map((kept) => ({ kept, loses: lost(schedule, kept), drops: kept.filter((keep) => !keep).length }))
    .sort((a, b) => a.loses - b.loses || a.drops - b.drops);
  let best: (Choice & { loses: number; drops: number }) | null = null;
  for (const { kept, loses, drops } of choices) {
    if (best && (loses > best.loses || drops > best.drops)) break;
    const layout = quickest(
      schedule.with(kept),
      Math.min(limitMin, best ? best.layout.finishMin - 1 : Infinity),
      allowance,
    );
    if (layout === 'unknown') return null;
    if (layout) best = { kept, layout, proven: true, loses, drops };
  }
  return best;
}

/**
 * A good choice of a day of any size: leave out what is least wanted for the
 * time it takes until the rest fits, then see what fits again after all.
 */
export function goodChoice(schedule: DaySchedule, limitMin: number, width: number): Choice {
  let kept = schedule.tasks.map(() => true);
  let layout = beam(schedule, width);
  while (!inTime(layout, limitMin) && kept.some(Boolean)) {
    kept = close(schedule, leaveOne(schedule, kept, limitMin));
    if (new Bounds(schedule.with(kept)).ofDay().finishMin <= limitMin)
      layout = beam(schedule.with(kept), QUICK);
  }
  const take = (candidate: boolean[]): boolean => {
    if (new Bounds(schedule.with(candidate)).ofDay().finishMin > limitMin) return false;
    const found = beam(schedule.with(candidate), QUICK);
    if (!inTime(found, limitMin)) return false;
    kept = candidate;
    layout = found;
    return true;
  };
  const byWanted = schedule.tasks
    .map((_, i) => i)
    .sort((a, b) => schedule.tasks[b]!.wanted - schedule.tasks[a]!.wanted);
  for (const out of byWanted) {
    if (kept[out]) continue;
    const back = kept.map((keep, i) => keep || i === out);
    if (!closed(schedule, back) || take(back)) continue;
    // in the place of something that is wanted less
    for (const less of byWanted.toReversed()) {
      if (schedule.tasks[less]!.wanted >= schedule.tasks[out]!.wanted) break;
      if (!kept[less]) continue;
      const swapped = back.map((keep, i) => keep && i !== less);
      if (closed(schedule, swapped) && take(swapped)) break;
    }
  }
  const whole = beam(schedule.with(kept), width);
  return {
    kept,
    layout: inTime(whole, limitMin) && whole.finishMin < layout.finishMin ? whole : layout,
    proven: false,
  };
}

/** Standings kept a level where many layouts are tried. */
const QUICK = 3;
/** A task that cannot be laid out weighs as much as so many minutes too many. */
const STUCK_MIN = 10_000;
/** Candidates that are laid out to see what leaving them out gains. */
const TRIED = 8;

/** Without the task that costs least for the time that it frees. */
function leaveOne(schedule: DaySchedule, kept: boolean[], limitMin: number): boolean[] {
  const price = (i: number): number =>
    schedule.tasks[i]!.wanted / (schedule.tasks[i]!.minutes + schedule.tasks[i]!.prepareMin);
  const candidates = schedule.tasks
    .map((_, i) => i)
    .filter((i) => kept[i])
    .sort((a, b) => price(a) - price(b) || b - a)
    .slice(0, TRIED);
  // while even the bound is too late, the bound tells what a task frees; then only a layout does
  const bounded = Number.isFinite(limitMin) && new Bounds(schedule.with(kept)).ofDay().finishMin > limitMin;
  const over = (choice: readonly boolean[]): number => {
    if (bounded) return new Bounds(schedule.with(choice)).ofDay().finishMin - limitMin;
    const { finishMin, stuck } = beam(schedule.with(choice), QUICK);
    return stuck * STUCK_MIN + Math.max(0, finishMin - (Number.isFinite(limitMin) ? limitMin : finishMin));
  };
  const now = over(kept);
  let best: { kept: boolean[]; rate: number } | null = null;
  for (const i of candidates) {
    const without = close(
      schedule,
      kept.map((keep, j) => keep && j !== i),
    );
    const gain = Math.max(0.01, now - over(without));
    const rate = (lost(schedule, without) - lost(schedule, kept)) / gain;
    if (!best || rate < best.rate) best = { kept: without, rate };
  }
  return best!.kept;
}
