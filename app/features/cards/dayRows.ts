import type { Card, CardStep } from '@pace-check/contract';
import { runStates, taskId, type PlannedRun, type RunState } from '@pace-check/core';

/** A run of the day, planned, going on, or over. */
export interface DayRow {
  taskId: string;
  step: CardStep;
  repeat: number;
  state: RunState['state'];
  startMin: number;
  endMin: number;
  hand: number;
  /** Null for runs of which no plan is left. */
  planned: PlannedRun | null;
  runId: string | null;
  /** The title that came on last in a run of several. */
  now: { title: string; atMin: number } | null;
}

/** The day's runs in the order of their starts: what has begun as it was, the rest as it is planned. */
export function dayRows(card: Card): DayRow[] {
  const events = card.events.flatMap((event) =>
    event.kind === 'started' || event.kind === 'ended' ? [event] : [],
  );
  const states = new Map(runStates(card.steps, events).map((state) => [state.taskId, state]));
  const planned = new Map(
    [...(card.plan?.past ?? []), ...(card.plan?.runs ?? [])].map((run) => [run.taskId, run]),
  );
  const links = new Map(
    card.events.flatMap((event) =>
      event.kind === 'linked' ? [[taskId(event.stepId, event.repeat), event.runId]] : [],
    ),
  );
  const rows = card.steps.flatMap((step) =>
    Array.from({ length: step.repeats }, (_, i): DayRow[] => {
      const id = taskId(step.id, i + 1);
      const state = states.get(id)!;
      const plan = planned.get(id) ?? null;
      if (state.state === 'skipped' || (plan === null && state.startMin === null)) return [];
      const startMin = state.startMin ?? plan!.startMin;
      return [
        {
          taskId: id,
          step,
          repeat: i + 1,
          state: state.state,
          startMin,
          endMin: state.endMin ?? (state.startMin === null ? plan!.endMin : startMin + step.minutes),
          hand: plan?.hand ?? 0,
          planned: plan,
          runId: links.get(id) ?? null,
          now: titleNow(card, step.id, i + 1),
        },
      ];
    }).flat(),
  );
  return rows.sort((a, b) => a.startMin - b.startMin);
}

/** The title that came on last; null while it is the step's own. */
function titleNow({ events }: Card, stepId: string, repeat: number): DayRow['now'] {
  const last = events
    .flatMap((event) =>
      event.kind === 'title' && event.stepId === stepId && event.repeat === repeat ? [event] : [],
    )
    .sort((a, b) => a.atMin - b.atMin)
    .at(-1);
  return last ? { title: last.title, atMin: last.atMin } : null;
}

/** What is next: the run that goes on, else the first that is still open. */
export const nextRow = (rows: DayRow[]): DayRow | null =>
  rows.find((row) => row.state === 'running') ?? rows.find((row) => row.state === 'open') ?? null;

/** A step in a few words, with its repeat where it has several. */
export const nameOf = ({ step, repeat }: Pick<DayRow, 'step' | 'repeat'>): string =>
  `${step.title} on ${step.device ?? 'no device'}${step.repeats > 1 ? `, ${repeat} of ${step.repeats}` : ''}`;

/** The step and repeat that a task's id stands for. */
export function stepOfTask(steps: CardStep[], id: string): { step: CardStep; repeat: number } | null {
  for (const step of steps)
    for (let repeat = 1; repeat <= step.repeats; repeat++)
      if (taskId(step.id, repeat) === id) return { step, repeat };
  return null;
}
