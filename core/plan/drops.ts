import type { Bench } from './bench';
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
export function closed(bench: Bench, kept: readonly boolean[]): boolean {
  const place = new Map(bench.tasks.map((task, i) => [task.id, i]));
  return bench.tasks.every((task, i) => !kept[i] || task.after.every((id) => kept[place.get(id) ?? i]));
}

/** Leaves out, too, what comes after something that is left out. */
function close(bench: Bench, kept: boolean[]): boolean[] {
  const closing = kept.slice();
  const place = new Map(bench.tasks.map((task, i) => [task.id, i]));
  for (let changed = true; changed;) {
    changed = false;
    bench.tasks.forEach((task, i) => {
      if (!closing[i] || task.after.every((id) => closing[place.get(id) ?? i])) return;
      closing[i] = false;
      changed = true;
    });
  }
  return closing;
}

/** What leaving tasks out costs. */
export const lost = (bench: Bench, kept: readonly boolean[]): number =>
  bench.tasks.reduce((sum, task, i) => sum + (kept[i] ? 0 : task.wanted), 0);

/** The best choice of a small day, by trying all in the order of what they lose; null where that took too long. */
export function smallChoice(bench: Bench, limitMin: number): Choice | null {
  const n = bench.tasks.length;
  if (n > SMALL) return null;
  const allowance: Allowance = { left: SMALL_ALLOWANCE };
  const choices = Array.from({ length: 2 ** n }, (_, mask) =>
    bench.tasks.map((_task, i) => (mask & (1 << i)) === 0),
  )
    .filter((kept) => closed(bench, kept))
    .map((kept) => ({ kept, loses: lost(bench, kept), drops: kept.filter((keep) => !keep).length }))
    .sort((a, b) => a.loses - b.loses || a.drops - b.drops);
  let best: (Choice & { loses: number; drops: number }) | null = null;
  for (const { kept, loses, drops } of choices) {
    if (best && (loses > best.loses || drops > best.drops)) break;
    const layout = quickest(
      bench.with(kept),
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
export function goodChoice(bench: Bench, limitMin: number, width: number): Choice {
  let kept = bench.tasks.map(() => true);
  let layout = beam(bench, width);
  while (!inTime(layout, limitMin) && kept.some(Boolean)) {
    kept = close(bench, leaveOne(bench, kept, limitMin));
    if (new Bounds(bench.with(kept)).ofDay().finishMin <= limitMin) layout = beam(bench.with(kept), QUICK);
  }
  const take = (candidate: boolean[]): boolean => {
    if (new Bounds(bench.with(candidate)).ofDay().finishMin > limitMin) return false;
    const found = beam(bench.with(candidate), QUICK);
    if (!inTime(found, limitMin)) return false;
    kept = candidate;
    layout = found;
    return true;
  };
  const byWanted = bench.tasks
    .map((_, i) => i)
    .sort((a, b) => bench.tasks[b]!.wanted - bench.tasks[a]!.wanted);
  for (const out of byWanted) {
    if (kept[out]) continue;
    const back = kept.map((keep, i) => keep || i === out);
    if (!closed(bench, back) || take(back)) continue;
    // in the place of something that is wanted less
    for (const less of byWanted.toReversed()) {
      if (bench.tasks[less]!.wanted >= bench.tasks[out]!.wanted) break;
      if (!kept[less]) continue;
      const swapped = back.map((keep, i) => keep && i !== less);
      if (closed(bench, swapped) && take(swapped)) break;
    }
  }
  const whole = beam(bench.with(kept), width);
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
function leaveOne(bench: Bench, kept: boolean[], limitMin: number): boolean[] {
  const price = (i: number): number =>
    bench.tasks[i]!.wanted / (bench.tasks[i]!.minutes + bench.tasks[i]!.prepareMin);
  const candidates = bench.tasks
    .map((_, i) => i)
    .filter((i) => kept[i])
    .sort((a, b) => price(a) - price(b) || b - a)
    .slice(0, TRIED);
  // while even the bound is too late, the bound tells what a task frees; then only a layout does
  const bounded = Number.isFinite(limitMin) && new Bounds(bench.with(kept)).ofDay().finishMin > limitMin;
  const over = (choice: readonly boolean[]): number => {
    if (bounded) return new Bounds(bench.with(choice)).ofDay().finishMin - limitMin;
    const { finishMin, stuck } = beam(bench.with(choice), QUICK);
    return stuck * STUCK_MIN + Math.max(0, finishMin - (Number.isFinite(limitMin) ? limitMin : finishMin));
  };
  const now = over(kept);
  let best: { kept: boolean[]; rate: number } | null = null;
  for (const i of candidates) {
    const without = close(
      bench,
      kept.map((keep, j) => keep && j !== i),
    );
    const gain = Math.max(0.01, now - over(without));
    const rate = (lost(bench, without) - lost(bench, kept)) / gain;
    if (!best || rate < best.rate) best = { kept: without, rate };
  }
  return best!.kept;
}
