import type { Card, Kit } from '@pace-check/contract';
import {
  carriedOver,
  PlanRefused,
  poseDay,
  type DayPlan,
  type Demand,
  type PosedDay,
} from '@pace-check/core';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { PlannerMessage, PlannerRequest } from './planner.worker';

/** Why a day cannot be laid out. */
export interface Refused {
  place: string;
  message: string;
  remedy: string;
}

export interface Planner {
  /** While it looks: the best plan so far, once there is one. */
  looking: { best: DayPlan | null } | null;
  refused: Refused | null;
  /** Lays the card's day out and gives the plan; null where it was refused or cancelled. */
  lay: (card: Card, options?: { rounds?: number; keepOrder?: boolean }) => Promise<DayPlan | null>;
  /** Ends the looking; what was found so far is given, unless it is not wanted. */
  stop: (take: boolean) => void;
}

/** The problem that a card poses; what is wrong with it where it poses none. */
export function posed(card: Card, demandOf: (title: string) => Demand | null): PosedDay | Refused {
  const steps = card.steps.map(({ conditions, ...step }) => ({
    ...step,
    pluggedIn: conditions.charging === 'plugged in',
  }));
  const events = card.events.flatMap((event) =>
    event.kind === 'started' || event.kind === 'ended' || event.kind === 'reading' ? [event] : [],
  );
  try {
    return poseDay(
      { ...card, steps },
      card.known,
      demandOf,
      events,
      card.plan ? [...card.plan.past, ...card.plan.runs] : [],
    );
  } catch (error) {
    if (!(error instanceof PlanRefused)) throw error;
    return { place: error.place, message: error.message, remedy: error.remedy };
  }
}

export const demandIn =
  (kit: Kit | undefined) =>
  (title: string): Demand | null =>
    kit?.titles.find((one) => one.name.toLowerCase() === title.toLowerCase())?.facts.demand ?? null;

/** Lays days out in a worker. */
export function usePlanner(kit: Kit | undefined): Planner {
  const [looking, setLooking] = useState<Planner['looking']>(null);
  const [refused, setRefused] = useState<Refused | null>(null);
  const running = useRef<{
    worker: Worker;
    end: (plan: DayPlan | null) => void;
    best: DayPlan | null;
  } | null>(null);
  useEffect(() => () => running.current?.worker.terminate(), []);

  const lay = useCallback<Planner['lay']>(
    (card, { rounds, keepOrder = false } = {}) => {
      running.current?.end(null);
      setRefused(null);
      const day = posed(card, demandIn(kit));
      if (!('problem' in day)) {
        setRefused(day);
        return Promise.resolve(null);
      }
      // a day whose runs are all over is a plan of nothing more
      if (day.problem.tasks.length === 0 && day.states.length > 0 && card.plan)
        return Promise.resolve(
          carriedOver(card.plan, {
            ...card.plan,
            runs: [],
            pauses: [],
            rests: [],
            dropped: [],
            past: [],
            finishMin: day.problem.fromMin,
            fromMin: day.problem.fromMin,
            boundMin: day.problem.fromMin,
            waitingMin: 0,
            handsOnMin: 0,
          }),
        );
      setLooking({ best: null });
      return new Promise<DayPlan | null>((resolve) => {
        const worker = new Worker(new URL('./planner.worker', import.meta.url));
        const end = (plan: DayPlan | null): void => {
          worker.terminate();
          running.current = null;
          setLooking(null);
          resolve(plan && carriedOver(card.plan, plan));
        };
        const job = { worker, end, best: null as DayPlan | null };
        running.current = job;
        worker.onmessage = ({ data }: MessageEvent<PlannerMessage>) => {
          if ('best' in data) {
            job.best = data.best;
            setLooking({ best: data.best });
          } else if ('done' in data) end(data.done);
          else {
            setRefused(data.refused);
            end(null);
          }
        };
        worker.onerror = (event) => {
          setRefused({
            place: 'planner',
            message: `The planner stopped (${event.message}).`,
            remedy: 'Reload the page and plan the day again.',
          });
          end(null);
        };
        const request: PlannerRequest = {
          problem: day.problem,
          options: {
            ...(rounds === undefined ? {} : { rounds }),
            ...(keepOrder && card.plan ? { previous: card.plan.order } : {}),
          },
        };
        worker.postMessage(request);
      });
    },
    [kit],
  );
  const stop = useCallback((take: boolean) => running.current?.end(take ? running.current.best : null), []);
  return { looking, refused, lay, stop };
}
