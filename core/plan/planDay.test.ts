import fc from 'fast-check';
import { planDay, type DayPlan, type PlanOptions } from './planDay';
import { PlanRefused, type DayProblem } from './problem';
import { day, device, freshHand, randomDay, RULES, task } from './testDays';

function plan(problem: DayProblem, options: PlanOptions = {}): DayPlan {
  const steps = planDay(problem, options);
  for (;;) {
    const { done, value } = steps.next();
    if (done) return value;
  }
}

const refusal = (problem: DayProblem): PlanRefused => {
  try {
    plan(problem);
  } catch (error) {
    if (error instanceof PlanRefused) return error;
    throw error;
  }
  throw new Error('it was not refused');
};

/** What is lost and when the day ends: what a plan is judged by. */
const worth = (
  problem: DayProblem,
  { dropped, finishMin }: DayPlan,
): { lost: number; drops: number; finishMin: number } => ({
  lost: dropped.reduce((sum, { taskId }) => sum + problem.tasks.find((one) => one.id === taskId)!.wanted, 0),
  drops: dropped.length,
  finishMin,
});

/**
 * The same day by plain search: every subset, every order, every pair of
 * hands, every rest; the clock goes minute by minute, and so do heat and charge.
 */
function plainSearch(problem: DayProblem): { lost: number; drops: number; finishMin: number } | null {
  const { tasks, rules } = problem;
  const limit = problem.finishByMin ?? 3000;
  const demand = ['light', 'medium', 'heavy', 'notorious'];
  let best: { lost: number; drops: number; finishMin: number } | null = null;
  const better = (a: NonNullable<typeof best>): boolean =>
    !best ||
    a.lost < best.lost ||
    (a.lost === best.lost &&
      (a.drops < best.drops || (a.drops === best.drops && a.finishMin < best.finishMin)));
  type Body = { at: number; x: number; p: number };
  type Hand = { free: number; since: number | null; until: number };
  const minutesTo = (from: number, to: number, rate: number): number => {
    let minutes = 0;
    for (let p = from; p < to - 1e-9; minutes++)
      p = p >= 80 ? p + rate / 2 : p + rate <= 80 ? p + rate : 80 + (rate - (80 - p)) / 2;
    return minutes;
  };
  const pause = (d: number, body: Body, gap: number, need: number): { x: number; p: number } | null => {
    const { coolTauMin: tau, chargeRiseC: rise, chargePercentPerMin: rate } = problem.devices[d]!;
    const decay = Math.exp(-1 / tau);
    let from = 0;
    for (let x = body.x; x > rules.chargeOverRoomC + 1e-9; x *= decay) from++;
    // as much charge as leaves it cool
    for (
      let charge = rate === null ? 0 : Math.min(Math.max(0, gap - from), minutesTo(body.p, 100, rate));
      charge >= 0;
      charge--
    ) {
      let { x, p } = body;
      for (let minute = 0; minute < gap; minute++) {
        const charging = minute >= from && minute < from + charge;
        x = charging ? rise + (x - rise) * decay : x * decay;
        if (charging)
          p = Math.min(
            100,
            p >= 80 ? p + rate! / 2 : p + rate! <= 80 ? p + rate! : 80 + (rate! - (80 - p)) / 2,
          );
      }
      if (x <= rules.startOverRoomC + 1e-7) return p >= need - 1e-7 ? { x, p } : null;
    }
    return null;
  };
  const search = (
    left: number[],
    bodies: Body[],
    hands: Hand[],
    ends: Map<string, number>,
    finish: number,
    lost: number,
    drops: number,
  ): void => {
    if (left.length === 0) {
      const found = { lost, drops, finishMin: finish };
      if (better(found)) best = found;
      return;
    }
    for (const i of left) {
      const one = tasks[i]!;
      const d = problem.devices.findIndex((dev) => dev.id === one.deviceId);
      const waits = (j: number): boolean =>
        one.after.includes(tasks[j]!.id) ||
        (tasks[j]!.deviceId === one.deviceId && j !== i && precedes(j, i));
      if (left.some((j) => j !== i && waits(j))) continue;
      for (let h = 0; h < hands.length; h++) {
        for (const rest of rules.hands ? [false, true] : [false]) {
          const need = Math.max(rules.startPercent, rules.floorPercent + one.percentPerMin * one.minutes);
          const hand = hands[h]!;
          for (let start = 0; start <= limit; start++) {
            const begin = start - one.prepareMin;
            if (
              start < bodies[d]!.at ||
              begin < hand.free ||
              one.after.some((id) => (ends.get(id) ?? 0) > start)
            )
              continue;
            const until = begin + one.prepareMin + (one.attended ? one.minutes : 0);
            const rested = hand.since === null || !rules.hands || begin - hand.until >= rules.hands.restMin;
            if (!rested && (rest || until - hand.since! > rules.hands!.stretchMin - rules.hands!.restMin))
              continue;
            const cooled = pause(d, bodies[d]!, start - bodies[d]!.at, need);
            if (!cooled) continue;
            const end = start + one.minutes;
            if (end > limit) break;
            const after = bodies.slice();
            after[d] = {
              at: end,
              x: one.riseC + (cooled.x - one.riseC) * Math.exp(-one.minutes / problem.devices[d]!.warmTauMin),
              p: cooled.p - one.percentPerMin * one.minutes,
            };
            const worked = hands.slice();
            worked[h] = {
              free: one.attended || problem.parallel ? until : end,
              since: rested ? begin : hand.since,
              until,
            };
            search(
              left.filter((j) => j !== i),
              after,
              worked,
              new Map(ends).set(one.id, end),
              Math.max(finish, end),
              lost,
              drops,
            );
            break;
          }
        }
      }
    }
  };
  const precedes = (j: number, i: number): boolean => topological().indexOf(j) < topological().indexOf(i);
  let memo: number[] | null = null;
  const topological = (): number[] => {
    if (memo) return memo;
    memo = [];
    const rank = (i: number): number =>
      (problem.order === 'light-to-heavy' ? demand.indexOf(tasks[i]!.demand) * 100 : 0) + i;
    while (memo.length < tasks.length)
      memo.push(
        tasks
          .map((_, i) => i)
          .filter(
            (i) =>
              !memo!.includes(i) && tasks[i]!.after.every((id) => memo!.some((j) => tasks[j]!.id === id)),
          )
          .sort((a, b) => rank(a) - rank(b))[0]!,
      );
    return memo;
  };
  for (let mask = 0; mask < 2 ** tasks.length - 1; mask++) {
    const out = tasks.filter((_, i) => mask & (1 << i));
    if (
      tasks.some((one, i) => !(mask & (1 << i)) && one.after.some((id) => out.some((gone) => gone.id === id)))
    )
      continue;
    const left = tasks.map((_, i) => i).filter((i) => !(mask & (1 << i)));
    const start = problem.devices.map((dev) => ({ at: dev.fromMin, x: dev.overRoomC, p: dev.percent }));
    const crew = problem.parallel ? problem.hands : problem.hands.slice(0, 1);
    search(
      left,
      start,
      crew.map(() => ({ free: 0, since: null, until: 0 })),
      new Map(),
      0,
      out.reduce((sum, one) => sum + one.wanted, 0),
      out.length,
    );
  }
  return best;
}

/** Everything that must hold of any plan, looked at from outside: heat and battery go in tenths of a minute. */
function breaches(problem: DayProblem, found: DayPlan): string[] {
  const wrong: string[] = [];
  const { rules, tasks } = problem;
  const say = (what: string, ok: boolean): void => void (ok || wrong.push(what));
  const crew = problem.parallel ? problem.hands.length : 1;
  for (let hand = 0; hand < crew; hand++) {
    const work = found.runs
      .filter((run) => run.hand === hand)
      .map((run) => ({ from: run.startMin - run.prepareMin, to: run.attended ? run.endMin : run.startMin }))
      .sort((a, b) => a.from - b.from || a.to - b.to);
    let since = -Infinity;
    work.forEach((piece, i) => {
      if (i > 0) say('one pair of hands at two runs', piece.from >= work[i - 1]!.to);
      if (i === 0 || piece.from - work[i - 1]!.to >= (rules.hands?.restMin ?? Infinity)) since = piece.from;
      if (rules.hands)
        say('no rest in the stretch', piece.to - since <= rules.hands.stretchMin - rules.hands.restMin);
    });
  }
  if (!problem.parallel)
    found.runs.forEach((run, i) => say('runs overlap', i === 0 || run.startMin >= found.runs[i - 1]!.endMin));
  for (const dev of problem.devices) {
    const runs = found.runs.filter((run) => run.deviceId === dev.id);
    const pauses = found.pauses.filter((one) => one.deviceId === dev.id);
    let [x, p] = [dev.overRoomC, dev.percent];
    const charging = (minute: number): boolean =>
      pauses.some((one) => one.kind === 'charge' && minute >= one.fromMin && minute < one.toMin);
    for (let tenth = dev.fromMin * 10; tenth < found.finishMin * 10; tenth++) {
      const minute = Math.floor(tenth / 10);
      const run = runs.find((one) => minute >= one.startMin && minute < one.endMin);
      if (run && tenth === run.startMin * 10) {
        say(`starts at ${x.toFixed(2)} over the room`, x <= rules.startOverRoomC + 1e-3);
        say(`starts with ${p.toFixed(1)} %`, p >= rules.startPercent - 1e-3);
        say(
          'the plan says another temperature',
          Math.abs(x - run.startOverRoomC) < 1e-3 && Math.abs(p - run.startPercent) < 1e-3,
        );
      }
      const of = run && tasks.find((one) => one.id === run.taskId)!;
      const [tau, towards] = of
        ? [dev.warmTauMin, of.riseC]
        : [dev.coolTauMin, charging(minute) ? dev.chargeRiseC : 0];
      if (!of && charging(minute)) {
        say(`charges at ${x.toFixed(1)} over the room`, x <= rules.chargeOverRoomC + 1e-3);
        const rate = dev.chargePercentPerMin! / 10;
        p = Math.min(100, p >= 80 ? p + rate / 2 : p + rate <= 80 ? p + rate : 80 + (rate - (80 - p)) / 2);
      }
      x = towards + (x - towards) * Math.exp(-0.1 / tau);
      if (of) p -= of.percentPerMin / 10;
      say(`battery at ${p.toFixed(1)} %`, p >= rules.floorPercent - 1e-3);
    }
    runs.forEach((run, i) => {
      say('two runs on one device', i === 0 || run.startMin >= runs[i - 1]!.endMin);
      const [earlier, later] = [
        tasks.find((one) => one.id === runs[i - 1]?.taskId),
        tasks.find((one) => one.id === run.taskId)!,
      ];
      if (earlier && problem.tasks.every((one) => one.after.length === 0)) {
        const [a, b] = [earlier, later].map((one) =>
          ['light', 'medium', 'heavy', 'notorious'].indexOf(one.demand),
        );
        say(
          'order not kept',
          problem.order === 'light-to-heavy'
            ? a! < b! || (a === b && tasks.indexOf(earlier) < tasks.indexOf(later))
            : tasks.indexOf(earlier) < tasks.indexOf(later),
        );
      }
    });
  }
  for (const run of found.runs) {
    for (const id of tasks.find((one) => one.id === run.taskId)!.after) {
      const earlier = found.runs.find((one) => one.taskId === id);
      say('after not kept', earlier !== undefined && earlier.endMin <= run.startMin);
    }
  }
  say('ends too late', found.finishMin <= (problem.finishByMin ?? Infinity));
  say('the finish is not the last end', found.finishMin === Math.max(...found.runs.map((run) => run.endMin)));
  say('shorter than the bound', found.finishMin >= found.boundMin);
  say('a task is lost from sight', found.runs.length + found.dropped.length === tasks.length);
  return wrong;
}

describe('laws of every plan', () => {
  it('hold on random days, with and without an end', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 1e6 }),
        fc.integer({ min: 1, max: 5 }),
        fc.integer({ min: 1, max: 16 }),
        fc.option(fc.integer({ min: 30, max: 400 })),
        (seed, devices, tasks, finishByMin) => {
          const problem = { ...randomDay(seed, devices, tasks), finishByMin };
          let found: DayPlan;
          try {
            found = plan(problem, { rounds: 60 });
          } catch (error) {
            if (error instanceof PlanRefused) return;
            throw error;
          }
          expect(breaches(problem, found)).toEqual([]);
        },
      ),
      { numRuns: 120, seed: 20 },
    );
  });

  it('would be seen to be broken', () => {
    const problem = day([device('d')], [task('a', 'd'), task('b', 'd')]);
    const found = plan(problem);
    expect(breaches(problem, found)).toEqual([]);
    const early = {
      ...found,
      runs: found.runs.map((run, i) =>
        i === 1 ? { ...run, startMin: run.startMin - 5, endMin: run.endMin - 5 } : run,
      ),
      finishMin: found.finishMin - 5,
      boundMin: 0,
    };
    expect(breaches(problem, early).join('; ')).toMatch(/starts at 4\.\d+ over the room/);
  });
});

describe('small days', () => {
  it.each(Array.from({ length: 24 }, (_, i) => i + 1))(
    'are solved as a plain search of everything solves them (day %i)',
    (seed) => {
      const whole = { ...randomDay(seed * 7, 1 + (seed % 3), 4), parallel: seed % 5 !== 0 };
      const problem = { ...whole, finishByMin: seed % 2 === 0 ? 90 + (seed % 7) * 15 : null };
      const expected = plainSearch(problem);
      if (expected === null) return void expect(refusal(problem)).toBeInstanceOf(PlanRefused);
      const found = plan(problem);
      expect(found.proven).toBe(true);
      expect(worth(problem, found)).toEqual(expected);
    },
  );
});

describe('instances from the literature', () => {
  const noRules = { ...RULES, startPercent: 0, floorPercent: 0, hands: null };
  it('one machine with heads and tails (Carlier, 1982, his example of seven jobs; from memory)', () => {
    // heads: a device is free only then; the machine: the hands; tails: the run goes on by itself
    const heads = [10, 13, 11, 20, 30, 0, 30];
    const work = [5, 6, 7, 4, 3, 6, 2];
    const tails = [7, 26, 24, 21, 8, 17, 0];
    const devices = heads.map((head, i) => device(`d${i}`, { fromMin: head + work[i]!, percent: 100 }));
    const tasks = work.map((prepareMin, i) =>
      task(`j${i}`, `d${i}`, { prepareMin, minutes: tails[i]! || 1e-9, attended: false, percentPerMin: 0 }),
    );
    const found = plan(day(devices, tasks, { rules: noRules }));
    expect(Math.round(found.finishMin)).toBe(50);
    expect(found.proven).toBe(true);
  });
  it('two machines, where longest first is not best (Graham, 1969; from memory)', () => {
    // longest first ends at 7
    const work = [3, 3, 2, 2, 2];
    const found = plan(
      day(
        work.map((_, i) => device(`d${i}`)),
        work.map((minutes, i) => task(`j${i}`, `d${i}`, { minutes, prepareMin: 0, percentPerMin: 0 })),
        { rules: noRules, hands: [freshHand(), freshHand()] },
      ),
    );
    expect(found).toMatchObject({ finishMin: 6, boundMin: 6, proven: true });
  });
});

describe('a plan', () => {
  it('lets one device cool while another plays', () => {
    const tasks = ['a', 'b', 'c'].flatMap((id) => [
      task(`${id}1`, 'one', { minutes: 25 }),
      task(`${id}2`, 'two', { minutes: 25 }),
    ]);
    const alone = plan(
      day(
        [device('one')],
        tasks.filter((one) => one.deviceId === 'one'),
      ),
    );
    const both = plan(day([device('one'), device('two')], tasks));
    // twice the runs take far less than twice the time
    expect(both.finishMin).toBeLessThan(1.6 * alone.finishMin);
    expect(both.waitingMin).toBeLessThan(alone.waitingMin + 10);
  });
  it('waits for nothing when nobody is needed: unattended runs overlap', () => {
    const tasks = ['one', 'two'].map((id) =>
      task(`t ${id}`, id, { attended: false, minutes: 60, prepareMin: 2 }),
    );
    expect(plan(day([device('one'), device('two')], tasks))).toMatchObject({ finishMin: 64, handsOnMin: 4 });
    expect(plan(day([device('one'), device('two')], tasks, { parallel: false })).finishMin).toBe(124);
  });
  it('goes light to heavy, or as listed', () => {
    const tasks = [task('storm', 'd', { demand: 'heavy' }), task('breeze', 'd', { demand: 'light' })];
    const ids = (order: DayProblem['order']): string[] =>
      plan(day([device('d')], tasks, { order })).runs.map((run) => run.taskId);
    expect(ids('light-to-heavy')).toEqual(['breeze', 'storm']);
    expect(ids('as-listed')).toEqual(['storm', 'breeze']);
  });
  it('charges for what the next run needs, never while hot, and cools after', () => {
    const tasks = [
      task('a', 'd', { minutes: 60, percentPerMin: 0.9 }),
      task('b', 'd', { minutes: 60, percentPerMin: 0.9, demand: 'heavy' }),
    ];
    const found = plan(day([device('d', { percent: 75 })], tasks));
    expect(found.runs[1]!.startPercent).toBeGreaterThanOrEqual(69);
    expect(found.pauses.filter((one) => one.fromMin >= 60).map((one) => one.kind)).toEqual([
      'cool',
      'charge',
      'cool',
    ]);
  });
  it('drops what is least wanted when the day is full, and says why', () => {
    const tasks = [
      task('first', 'd', { wanted: 9 }),
      task('second', 'd', { wanted: 2 }),
      task('third', 'd', { wanted: 5 }),
    ];
    const found = plan(day([device('d')], tasks, { finishByMin: 90 }));
    expect(found.dropped).toEqual([{ taskId: 'second', why: 'day-full' }]);
    expect(found.runs.map((run) => run.taskId)).toEqual(['first', 'third']);
  });
  it('drops what a full battery cannot carry, and what comes after it', () => {
    const tasks = [
      task('hours', 'd', { attended: false, minutes: 300 }),
      task('then', 'd', { after: ['hours'] }),
      task('short', 'd'),
    ];
    expect(plan(day([device('d')], tasks)).dropped).toEqual([
      { taskId: 'hours', why: 'battery' },
      { taskId: 'then', why: 'after-dropped' },
    ]);
  });
  it('keeps an earlier order where another gains little', () => {
    const tasks = ['a', 'b', 'c', 'd'].map((id, i) => task(id, i % 2 ? 'two' : 'one', { minutes: 20 + i }));
    const problem = day([device('one'), device('two')], tasks);
    const kept = plan(problem, { previous: ['b', 'a', 'd', 'c'].map((taskId) => ({ taskId, rest: false })) });
    expect(kept.order.map((one) => one.taskId)).toEqual(['b', 'a', 'd', 'c']);
  });
  it('is the same for the same seed', () => {
    const problem = randomDay(3, 4, 24);
    expect(plan(problem, { seed: 5, rounds: 200 })).toEqual(plan(problem, { seed: 5, rounds: 200 }));
  });
  it('only ever gets better while it is looked for', () => {
    const problem = randomDay(11, 4, 20);
    const finishes = [...planDay(problem, { rounds: 400 })].map((one) => one.finishMin);
    expect(finishes).toEqual([...finishes].sort((a, b) => b - a));
  });
});

describe('a day that makes no sense is refused', () => {
  const one = [device('d')];
  it('without devices, steps or time, with the place and a remedy', () => {
    expect(refusal(day([], [task('a', 'd')]))).toMatchObject({
      place: 'devices',
      message: 'The card has no device.',
    });
    expect(refusal(day(one, []))).toMatchObject({ place: 'steps' });
    expect(refusal(day(one, [task('a', 'd', { minutes: 0 })]))).toMatchObject({
      place: 'a',
      message: '“a” lasts 0 minutes.',
    });
    expect(refusal(day(one, [task('a', 'd')], { fromMin: 60, finishByMin: 60 }))).toMatchObject({
      place: 'finishBy',
      message: 'The day ends before it starts.',
    });
    expect(refusal(day(one, [task('a', 'nobody')]))).toMatchObject({
      place: 'a',
      message: '“a” has no device.',
    });
    expect(refusal(day(one, [task('a', 'd')], { hands: [] }))).toMatchObject({ place: 'hands' });
    expect(refusal(day([device('d', { percent: 140 })], [task('a', 'd')]))).toMatchObject({ place: 'd' });
    expect(refusal(day([device('d', { coolTauMin: 0 })], [task('a', 'd')]))).toMatchObject({ place: 'd' });
    expect(refusal(day(one, [task('a', 'd')], { rules: { ...RULES, startOverRoomC: 0 } }))).toMatchObject({
      place: 'startOverRoomC',
    });
  });
  it('with an order that goes in a circle, which it names', () => {
    const tasks = [
      task('a', 'd', { after: ['c'] }),
      task('b', 'd', { after: ['a'] }),
      task('c', 'd', { after: ['b'] }),
      task('d', 'd', { after: ['c'] }),
    ];
    expect(refusal(day(one, tasks)).message).toMatch(/waits for .* waits for .*the order is circular/);
    expect(refusal(day(one, [task('a', 'd', { after: ['a'] })])).message).toBe('“a” comes after itself.');
  });
  it('with work that leaves no room for a rest', () => {
    expect(refusal(day(one, [task('a', 'd', { minutes: 90 })]))).toMatchObject({
      place: 'a',
      remedy: expect.stringContaining('Needs a person'),
    });
  });
  it('with an end before anything fits', () => {
    expect(refusal(day(one, [task('a', 'd')], { finishByMin: 15 })).message).toBe(
      'No step fits: 15 minutes are available, and the shortest, “a”, takes 23 without cooling and charging.',
    );
    expect(refusal(day(one, [task('a', 'd', { minutes: 70, percentPerMin: 2 })])).message).toContain(
      'more than a full battery',
    );
    expect(
      refusal(day([device('d', { percent: 10, chargePercentPerMin: null })], [task('a', 'd')])).message,
    ).toContain('No step can start');
  });
});

describe('a large day', () => {
  it('of six devices and sixty steps ends within 5 % of what no plan can beat', () => {
    const problem = { ...randomDay(4, 6, 60), hands: [freshHand()], parallel: true, rules: RULES };
    const found = plan(problem);
    expect(found.finishMin / found.boundMin).toBeLessThanOrEqual(1.05);
  });
});
