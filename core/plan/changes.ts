import type { DayPlan } from './planDay';

/** What a new plan makes of an old one. */
export interface PlanChanges {
  /** By how much the finish moves; positive is later. */
  finishByMin: number;
  /** Runs that start at another time, in the new plan's order; positive is later. */
  moved: { taskId: string; byMin: number; startMin: number }[];
  /** Runs that are no longer in the plan, or are in it again. */
  dropped: string[];
  back: string[];
  /** Whether runs that stand in both come in another order. */
  reordered: boolean;
}

/**
 * Compares a plan with the one before.
 *
 * @example
 * planChanges({ runs: [], dropped: [], finishMin: 60 }, { runs: [], dropped: [], finishMin: 72 }).finishByMin; // 12
 */
export function planChanges(before: DayPlan, after: DayPlan): PlanChanges {
  const old = new Map(before.runs.map((run) => [run.taskId, run]));
  const now = new Set(after.runs.map((run) => run.taskId));
  const gone = new Set(after.dropped.map((one) => one.taskId));
  const wasGone = new Set(before.dropped.map((one) => one.taskId));
  const both = (plan: DayPlan): string =>
    plan.runs
      .filter((run) => old.has(run.taskId) && now.has(run.taskId))
      .map((run) => run.taskId)
      .join();
  return {
    finishByMin: after.finishMin - before.finishMin,
    moved: after.runs.flatMap(({ taskId, startMin }) => {
      const earlier = old.get(taskId);
      return earlier && earlier.startMin !== startMin
        ? { taskId, byMin: startMin - earlier.startMin, startMin }
        : [];
    }),
    dropped: [...gone].filter((id) => old.has(id)),
    back: [...now].filter((id) => wasGone.has(id)),
    reordered: both(before) !== both(after),
  };
}

/**
 * A new plan of a day that has begun, with what the earlier ones assumed of
 * the runs that are no longer open.
 *
 * @example
 * carriedOver({ runs: [{ taskId: 'a' }], past: [] }, { runs: [], dropped: [], past: [] }).past; // [{"taskId":"a"}]
 */
export function carriedOver(before: DayPlan | null, after: DayPlan): DayPlan {
  if (before === null) return after;
  const open = new Set([...after.runs, ...after.dropped].map((one) => one.taskId));
  return { ...after, past: [...before.past, ...before.runs].filter((run) => !open.has(run.taskId)) };
}
