import { planDay, PlanRefused, type DayPlan, type DayProblem, type PlanOptions } from '@pace-check/core';

export interface PlannerRequest {
  problem: DayProblem;
  options: PlanOptions;
}
export type PlannerMessage =
  { best: DayPlan } | { done: DayPlan } | { refused: { place: string; message: string; remedy: string } };

/** Lays the day out off the main thread; every better plan is told as it is found. */
self.onmessage = (event: MessageEvent<PlannerRequest>): void => {
  const post = (message: PlannerMessage): void => self.postMessage(message);
  try {
    let last: DayPlan | null = null;
    for (const best of planDay(event.data.problem, event.data.options)) post({ best: (last = best) });
    post({ done: last! });
  } catch (error) {
    if (!(error instanceof PlanRefused)) throw error;
    post({ refused: { place: error.place, message: error.message, remedy: error.remedy } });
  }
};
