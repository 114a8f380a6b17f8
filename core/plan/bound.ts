import type { DaySchedule, DayState } from './daySchedule';

/** Times that no plan can be shorter than. */
export interface Bound {
  finishMin: number;
  /** What it comes from: the hands, or a device by its id. */
  from: 'hands' | string;
}

/**
 * Lower bounds on the finish, from any state on.
 *
 * - *A device*: its runs, with at least the cool-down that each leaves when it
 *   was started cold, and at least the charging that its battery needs.
 * - *The hands*: all the work that is left, shared evenly, with the rests that
 *   so much work needs.
 * - *One pair of hands, with heads and tails*: each run's earliest start on its
 *   device, and what must follow it there, as if work could be interrupted.
 *
 * @source relaxations of the plan; the last one is Jackson's preemptive schedule (Carlier, 1982)
 */
export class Bounds {
  /** Least pauses before each task on its device, and the time from each task's end to its device's end. */
  private readonly pauses: number[];
  private readonly tails: number[];

  constructor(private readonly schedule: DaySchedule) {
    const { tasks, orders, heat } = schedule;
    this.pauses = tasks.map(() => 0);
    this.tails = tasks.map(() => 0);
    orders.forEach((order, d) => {
      for (let k = order.length - 1; k > 0; k--) {
        const [earlier, later] = [order[k - 1]!, order[k]!];
        this.pauses[later] = heat[d]!.leastPause(tasks[earlier]!);
        this.tails[earlier] = this.pauses[later]! + tasks[later]!.minutes + this.tails[later]!;
      }
    });
  }

  /** The whole day's bound, with the sharper one for a single pair of hands. */
  ofDay(): Bound {
    const state = this.schedule.start();
    const found = this.from(state);
    if (state.hands.length > 1) return found;
    const interrupted = this.interrupted(state);
    return interrupted > found.finishMin ? { finishMin: interrupted, from: 'hands' } : found;
  }

  from(state: DayState): Bound {
    let best: Bound = { finishMin: state.finishMin, from: 'hands' };
    this.schedule.orders.forEach((order, d) => {
      const finishMin = this.starts(state, d).reduce((latest, start, k) => {
        const task = order[state.next[d]! + k]!;
        return Math.max(latest, start + this.schedule.tasks[task]!.minutes + this.tails[task]!);
      }, 0);
      if (finishMin > best.finishMin) best = { finishMin, from: this.schedule.problem.devices[d]!.id };
    });
    const hands = this.hands(state);
    return hands > best.finishMin ? { finishMin: hands, from: 'hands' } : best;
  }

  /** Earliest starts of a device's remaining tasks, whatever the hands do. */
  private starts(state: DayState, d: number): number[] {
    const { schedule } = this;
    const { fromMin, rules } = schedule.problem;
    const order = schedule.orders[d]!;
    const rate = schedule.problem.devices[d]!.chargePercentPerMin;
    const heat = state.heat[d]!;
    let played = 0;
    let used = 0;
    let paused = 0;
    const starts: number[] = [];
    for (let k = state.next[d]!; k < order.length; k++) {
      const task = schedule.tasks[order[k]!]!;
      // the first pause is known from where the device stands, its charging aside
      paused +=
        k === state.next[d]!
          ? Math.max(0, fromMin - heat.atMin, schedule.heat[d]!.coolMin(heat.overRoomC, rules.startOverRoomC))
          : this.pauses[order[k]!]!;
      const lacking = schedule.heat[d]!.needs(task) - (heat.percent - used);
      const charging = lacking <= 1e-9 ? 0 : rate === null ? Infinity : lacking / rate;
      starts.push(heat.atMin + played + Math.max(paused, Math.ceil(charging - 1e-9)));
      played += task.minutes;
      used += task.percentPerMin * task.minutes;
    }
    return starts;
  }

  /** The hands' work that is left, shared evenly. */
  private hands(state: DayState): number {
    const { schedule } = this;
    let work = 0;
    let leastTail = Infinity;
    schedule.orders.forEach((order, d) => {
      for (let k = state.next[d]!; k < order.length; k++) {
        const task = order[k]!;
        const { attended, minutes } = schedule.tasks[task]!;
        const alone = attended ? 0 : minutes;
        work += schedule.work(task) + (schedule.problem.parallel ? 0 : alone);
        leastTail = Math.min(leastTail, (schedule.problem.parallel ? alone : 0) + this.tails[task]!);
      }
    });
    if (work === 0) return 0;
    const { hands } = state;
    const free = hands.reduce((sum, hand) => sum + hand.freeMin, 0);
    const finish = (free + work) / hands.length;
    return Math.ceil(finish + this.rests(state, work) - 1e-9) + leastTail;
  }

  /** The least rest that so much work needs, for one pair of hands. */
  private rests({ hands }: DayState, work: number): number {
    const rule = this.schedule.problem.rules.hands;
    if (!rule || hands.length > 1 || !this.schedule.problem.parallel) return 0;
    const { freeMin, work: before } = hands[0]!;
    const limit = rule.stretchMin - rule.restMin;
    // whoever has rested since starts a new stretch
    const used = before && freeMin - before.untilMin < rule.restMin ? before.untilMin - before.sinceMin : 0;
    const needed = Math.max(0, Math.ceil((used + work) / limit - 1e-9) - 1);
    // the time since the last work counts towards the first of them
    return Math.max(0, needed * rule.restMin - (before ? freeMin - before.untilMin : 0));
  }

  /** Jackson's preemptive schedule: always work at the run with the longest tail. */
  private interrupted(state: DayState): number {
    const { schedule } = this;
    const jobs = schedule.orders.flatMap((order, d) =>
      this.starts(state, d).map((start, k) => {
        const task = order[state.next[d]! + k]!;
        const { attended, minutes, prepareMin } = schedule.tasks[task]!;
        const lone = attended || !schedule.problem.parallel ? 0 : minutes;
        return {
          head: Math.max(state.hands[0]!.freeMin, start - prepareMin),
          left: prepareMin + minutes - lone,
          tail: lone + this.tails[task]!,
        };
      }),
    );
    if (jobs.some((job) => !Number.isFinite(job.head))) return Infinity;
    jobs.sort((a, b) => a.head - b.head);
    const open: typeof jobs = [];
    let now = 0;
    let finish = 0;
    for (let i = 0; i < jobs.length || open.length > 0;) {
      if (open.length === 0) now = Math.max(now, jobs[i]!.head);
      while (i < jobs.length && jobs[i]!.head <= now) open.push(jobs[i++]!);
      const job = open.reduce((longest, one) => (one.tail > longest.tail ? one : longest));
      const until = Math.min(now + job.left, jobs[i]?.head ?? Infinity);
      job.left -= until - now;
      now = until;
      if (job.left > 0) continue;
      open.splice(open.indexOf(job), 1);
      finish = Math.max(finish, now + job.tail);
    }
    return finish;
  }
}
