import type { Card, CardStep } from '@pace-check/contract';
import { taskId } from '@pace-check/core';
import ical from 'ical-generator';
import { Problem } from './problem';

/**
 * A card's day as a calendar (iCalendar, RFC 5545). Its times are the bench's
 * own clock, in no time zone: nine o'clock is nine o'clock where the bench is.
 *
 * @throws Problem 409 where there is no plan or no date yet
 */
export function toCalendar({ id, name, day, plan, steps }: Card): string {
  if (plan === null || day.date === null) {
    throw new Problem(409, {
      code: 'no-plan',
      message: plan === null ? 'The day is not planned yet.' : 'The day has no date.',
      remedy: plan === null ? 'Plan the day first.' : 'Enter a date first.',
    });
  }
  const { date } = day;
  const calendar = ical({ name, prodId: { company: 'Pace Check', product: 'Test card', language: 'EN' } });
  const at = (minute: number): string =>
    new Date(Date.parse(`${date}T00:00:00Z`) + minute * 60_000).toISOString().slice(0, 19);
  const add = (uid: string, fromMin: number, toMin: number, summary: string, description: string): void =>
    void calendar.createEvent({
      id: uid,
      start: at(fromMin),
      end: at(toMin),
      floating: true,
      summary,
      description,
    });
  const tasks = stepsByTask(steps);
  for (const run of plan.runs) {
    const { step, repeat } = tasks.get(run.taskId) ?? {};
    if (step && repeat)
      add(
        `${id}-${run.taskId}`,
        run.startMin - run.prepareMin,
        run.endMin,
        summaryOf(step),
        [
          step.setup,
          `${step.minutes} min${step.attended ? '' : ', unattended'}`,
          step.repeats > 1 ? `${repeat} of ${step.repeats}` : null,
          step.note || null,
        ]
          .filter(Boolean)
          .join('\n'),
      );
  }
  for (const rest of plan.rests)
    add(
      `${id}-rest-${rest.hand}-${rest.fromMin}`,
      rest.fromMin,
      rest.toMin,
      'Break',
      'At least ten minutes every 90 minutes.',
    );
  return calendar.toString();
}

function stepsByTask(steps: CardStep[]): Map<string, { step: CardStep; repeat: number }> {
  return new Map(
    steps.flatMap((step) =>
      Array.from(
        { length: step.repeats },
        (_, i) => [taskId(step.id, i + 1), { step, repeat: i + 1 }] as const,
      ),
    ),
  );
}

const summaryOf = ({ title, device }: CardStep): string => `${title} on ${device ?? 'no device'}`;
