import fc from 'fast-check';
import type { EntryLine } from '../runFile/lines';
import { changeWatch, type Watched } from './coolWatch';
import { changeNotes, dayMinute, howEnded } from './cardDay';
import {
  changeRun,
  Lines,
  plannedEndMs,
  runClockMs,
  type Changed,
  type EndPlan,
  type RecordedLine,
  type RecordedRun,
  type RunChange,
} from './rulebook';

const READY: RecordedRun = {
  status: 'ready',
  startedMs: null,
  speed: 1,
  plan: { minutes: 30, endsItself: true },
  end: null,
};
const RUNNING: RecordedRun = { ...READY, status: 'running', startedMs: 1_000_000 };
const PLANNED = 'planned';
const NOW = 1_000_000 + 20 * 60_000;
const at = (nowMs = NOW): { nowMs: number; plannedEnd: string } => ({ nowMs, plannedEnd: PLANNED });
const skin = (atMs: number, c: number): EntryLine => ({
  type: 'skin',
  atMs,
  spot: 'back',
  c,
  by: 'infrared',
});
const line = (id: string, one: EntryLine, more: Partial<RecordedLine> = {}): RecordedLine => ({
  id,
  line: one,
  open: false,
  source: null,
  writer: 'me',
  takenBack: false,
  ...more,
});
const made = (changed: Changed<EndPlan>): Extract<Changed<EndPlan>, { refused: null }> => {
  if (changed.refused) throw new Error(changed.refused.why);
  return changed;
};
const end = (entry: string, atMs: number, reason: 'planned' | 'crash' | 'stopped'): RunChange => ({
  kind: 'end',
  entry,
  atMs,
  reason,
  writer: 'me',
});

describe('the start', () => {
  it('is when it was pressed, and counts once', () => {
    const { run } = made(changeRun(READY, new Lines([]), { kind: 'start', at: NOW - 5 }, at()));
    expect(run).toMatchObject({ status: 'running', startedMs: NOW - 5 });
    expect(made(changeRun(run, new Lines([]), { kind: 'start', at: NOW }, at())).run).toEqual(run);
  });
  it.each([
    ['in the future', NOW + 1],
    ['more than a day ago', NOW - 24 * 3600_000 - 1],
  ])('%s is a clock that is wrong', (_, startedAt) =>
    expect(made(changeRun(READY, new Lines([]), { kind: 'start', at: startedAt }, at())).run.startedMs).toBe(
      NOW,
    ),
  );
});

describe('a line', () => {
  it('is written, changed, and stays its first writer’s', () => {
    const lines = new Lines([line('a', skin(1, 30), { writer: 'first' })]);
    const put: RunChange = { kind: 'put', entry: 'a', line: skin(1, 31), open: false, writer: 'second' };
    expect(made(changeRun(RUNNING, lines, put, at())).lines).toEqual([
      line('a', skin(1, 31), { writer: 'first' }),
    ]);
  });
  it('that was taken back stays so, and is taken back once', () => {
    const lines = new Lines([line('a', skin(1, 30), { takenBack: true })]);
    const put: RunChange = { kind: 'put', entry: 'a', line: skin(1, 31), open: false, writer: 'me' };
    expect(changeRun(RUNNING, lines, put, at())).toEqual({ refused: { why: 'taken-back' } });
    expect(made(changeRun(RUNNING, lines, { kind: 'take-back', entry: 'a' }, at())).lines).toEqual([]);
  });
  it('of a source, and one that is not there, cannot be taken back', () => {
    const lines = new Lines([line('a', skin(1, 30), { source: 's', writer: null })]);
    for (const entry of ['a', 'b'])
      expect(changeRun(RUNNING, lines, { kind: 'take-back', entry }, at())).toEqual({
        refused: { why: 'no-line' },
      });
  });
  it('that is an end is refused: what follows from an end would be missed', () =>
    expect(
      changeRun(
        RUNNING,
        new Lines([]),
        {
          kind: 'put',
          entry: 'a',
          line: { type: 'end', atMs: 1, reason: 'crash' },
          open: false,
          writer: 'me',
        },
        at(),
      ),
    ).toEqual({ refused: { why: 'end-as-line' } }));
  it('of a span that goes on ends with a run that has ended', () => {
    const over: RecordedRun = { ...RUNNING, status: 'ended', end: { atMs: 9000, reason: 'stopped' } };
    const span: EntryLine = { type: 'span', fromMs: 8000, toMs: 8000, kind: 'menu' };
    const [written] = made(
      changeRun(over, new Lines([]), { kind: 'put', entry: 'a', line: span, open: true, writer: 'me' }, at()),
    ).lines;
    expect(written).toMatchObject({ open: false, line: { toMs: 9000 } });
  });
});

describe('the end', () => {
  const menu = line('menu', { type: 'span', fromMs: 60_000, toMs: 60_000, kind: 'menu' }, { open: true });
  it('closes what goes on, and lies no later than now', () => {
    const { run, lines } = made(changeRun(RUNNING, new Lines([menu]), end('e', 99 * 60_000, 'crash'), at()));
    expect(run.end).toEqual({ atMs: 20 * 60_000, reason: 'crash' });
    expect(lines.map(({ id, open, line: one }) => [id, open, one.type === 'span' && one.toMs])).toEqual([
      ['menu', false, 20 * 60_000],
      ['e', false, false],
    ]);
  });
  it('of a run that was never started is at its beginning', () =>
    expect(made(changeRun(READY, new Lines([]), end('e', 5000, 'stopped'), at())).run.end?.atMs).toBe(0));
  const over = made(changeRun(RUNNING, new Lines([]), end(PLANNED, 15 * 60_000, 'planned'), at()));
  it('by a person that is heard late takes the planned one’s place', () => {
    const { run, lines } = made(
      changeRun(over.run, new Lines(over.lines), end('mine', 9 * 60_000, 'crash'), at()),
    );
    expect(run.end).toEqual({ atMs: 9 * 60_000, reason: 'crash' });
    expect(lines.map(({ id, takenBack }) => [id, takenBack])).toEqual([
      [PLANNED, true],
      ['mine', false],
    ]);
  });
  it('is one, where two people mean the same; any other is refused', () => {
    const lines = new Lines(over.lines);
    expect(made(changeRun(over.run, lines, end(PLANNED, 15 * 60_000, 'planned'), at())).lines).toEqual([]);
    expect(made(changeRun(over.run, lines, end('b', 15 * 60_000 + 9000, 'planned'), at())).lines).toEqual([]);
    expect(changeRun(over.run, lines, end('b', 15 * 60_000 + 11_000, 'planned'), at())).toEqual({
      refused: { why: 'ended', atMs: 15 * 60_000 },
    });
  });
  it('is foretold only of a run that goes on and was asked to end by itself', () => {
    expect(plannedEndMs(RUNNING)).toBe(30 * 60_000);
    expect(plannedEndMs(READY)).toBeNull();
    expect(plannedEndMs(over.run)).toBeNull();
    expect(plannedEndMs({ ...RUNNING, plan: { minutes: 30, endsItself: false } })).toBeNull();
  });
  it('stops the clock', () => {
    expect(runClockMs(READY, NOW)).toBeNull();
    expect(runClockMs({ ...RUNNING, speed: 60 }, 1_000_500)).toBe(30_000);
    expect(runClockMs(over.run, NOW + 1e9)).toBe(15 * 60_000);
  });
});

describe('two screens and a server', () => {
  const someLine: fc.Arbitrary<EntryLine> = fc.oneof(
    fc
      .record({ atMs: fc.integer({ min: 0, max: 1_200_000 }), c: fc.integer({ min: 20, max: 50 }) })
      .map(({ atMs, c }) => skin(atMs, c)),
    fc
      .integer({ min: 0, max: 1_200_000 })
      .map((fromMs): EntryLine => ({ type: 'span', fromMs, toMs: fromMs, kind: 'menu' })),
  );
  const someChange: fc.Arbitrary<RunChange> = fc.oneof(
    fc.constant<RunChange>({ kind: 'start', at: 1_000_000 }),
    fc
      .record({
        entry: fc.constantFrom('a', 'b', 'c'),
        line: someLine,
        open: fc.boolean(),
        writer: fc.constantFrom('me', 'you'),
      })
      .map((put): RunChange => ({ kind: 'put', ...put })),
    fc.constantFrom('a', 'b', 'c').map((entry): RunChange => ({ kind: 'take-back', entry })),
    fc
      .record({ minutes: fc.integer({ min: 1, max: 40 }), endsItself: fc.boolean() })
      .map((plan): RunChange => ({ kind: 'plan', plan })),
    fc
      .record({
        entry: fc.constantFrom('mine', 'yours', PLANNED),
        atMs: fc.integer({ min: 0, max: 1_200_000 }),
        reason: fc.constantFrom('planned' as const, 'crash' as const),
      })
      .map(({ entry, atMs, reason }): RunChange =>
        end(entry, atMs, reason === 'crash' ? 'crash' : 'planned'),
      ),
  );
  interface State {
    run: RecordedRun;
    lines: Lines;
  }
  const applied = ({ run, lines }: State, change: RunChange): State => {
    const all = new Lines(lines.all());
    const changed = changeRun(run, all, change, at());
    if (changed.refused) return { run, lines: all };
    all.set(changed.lines);
    return { run: changed.run, lines: all };
  };
  const told = ({ run, lines }: State): unknown => ({ run, lines: lines.standing() });

  it('come to the same, in whatever order changes arrive and however often each is heard', () =>
    fc.assert(
      fc.property(
        fc.array(someChange, { maxLength: 14 }),
        fc.array(fc.nat({ max: 13 }), { maxLength: 14 }),
        fc.nat({ max: 14 }),
        (changes, repeats, heard) => {
          // as the server hears them: in some order, some twice at once because an answer was lost
          const arriving = changes.flatMap((change, i) =>
            repeats.includes(i) ? [change, change] : [change],
          );
          const begin: State = { run: READY, lines: new Lines([]) };
          const server = arriving.reduce(applied, begin);
          // a screen has heard of the first so many, and applies those on their way itself
          const known = changes.slice(0, heard).reduce(applied, begin);
          const screen = changes.slice(heard).reduce(applied, known);
          expect(told(screen)).toEqual(told(server));
        },
      ),
      { numRuns: 2000 },
    ));

  it('leave one end, no span that goes on after it, and nothing later than now', () =>
    fc.assert(
      fc.property(fc.array(someChange, { maxLength: 20 }), (changes) => {
        const { run, lines } = changes.reduce(applied, { run: READY, lines: new Lines([]) });
        const ends = lines.standing().filter((one) => one.line.type === 'end');
        if (run.end) {
          // taking an end back leaves the run ended: its page corrects it
          expect(ends.length).toBeLessThanOrEqual(1);
          for (const one of ends) expect(one.line).toMatchObject(run.end);
          expect(lines.openSpans()).toEqual([]);
          expect(run.end.atMs).toBeLessThanOrEqual(20 * 60_000);
        } else expect(ends).toEqual([]);
      }),
      { numRuns: 2000 },
    ));
});

describe('a watched cool-down', () => {
  const watch: Watched = { startedAt: 1000, readyC: 23, readings: [] };
  it('is read, corrected, and read in order of time', () => {
    const reading = (id: string, ms: number, c: number): Parameters<typeof changeWatch>[1] => ({
      kind: 'reading',
      reading: id,
      at: ms,
      c,
    });
    const read = [
      reading('b', 121_000, 30),
      reading('a', 61_000, 35),
      reading('b', 121_000, 31),
      reading('c', 0, 40),
    ].reduce((now, one) => changeWatch(now, one)!, watch);
    expect(read.readings).toEqual([
      { id: 'c', atS: 0, c: 40 },
      { id: 'a', atS: 60, c: 35 },
      { id: 'b', atS: 120, c: 31 },
    ]);
    expect(changeWatch(read, { kind: 'take-back', reading: 'a' })!.readings).toHaveLength(2);
    expect(changeWatch(read, { kind: 'ready-line', readyC: 25 })!.readyC).toBe(25);
    expect(changeWatch(read, { kind: 'done' })).toBeNull();
  });
  it('comes to the same, however often each reading is heard', () =>
    fc.assert(
      fc.property(
        fc.array(
          fc.oneof(
            fc
              .record({
                reading: fc.constantFrom('a', 'b'),
                at: fc.nat({ max: 1e6 }),
                c: fc.nat({ max: 60 }),
              })
              .map((one) => ({ kind: 'reading' as const, ...one })),
            fc.constantFrom('a', 'b').map((reading) => ({ kind: 'take-back' as const, reading })),
          ),
          { maxLength: 8 },
        ),
        (changes) => {
          const once = changes.reduce<Watched>((now, one) => changeWatch(now, one)!, watch);
          const twice = changes
            .flatMap((one) => [one, one])
            .reduce<Watched>((now, one) => changeWatch(now, one)!, watch);
          expect(twice).toEqual(once);
        },
      ),
    ));
});

describe('the day of a card', () => {
  it('hears how a run was over', () =>
    expect((['planned', 'crash', 'stopped', 'would-not-start'] as const).map(howEnded)).toEqual([
      'done',
      'crashed',
      'done',
      'skipped',
    ]));
  it.each([
    ['by the clock on the day', 30, 540, 575, 1, 575],
    ['by the plan, where nobody is there', 30, 540, null, 1, 570],
    ['by the plan in practice', 30, 540, 575, 60, 570],
    ['by the plan on another day', 30, 540, 1200, 1, 570],
  ])('%s', (_, after, planned, desk, speed, expected) =>
    expect(dayMinute(after, planned, desk, speed)).toBe(expected),
  );
  it('notes each thing once, and takes back what was noted', () => {
    const notes = [{ id: 'a', kind: 'started' }];
    expect(changeNotes(notes, { id: 'a', kind: 'ended' })).toEqual(notes);
    expect(changeNotes(notes, { id: 'b', kind: 'ended' })).toHaveLength(2);
    expect(changeNotes(notes, { id: 'x', kind: 'take-back', event: 'a' })).toEqual([]);
    expect(changeNotes(notes, { id: 'x', kind: 'take-back', event: 'other' })).toEqual(notes);
  });
});
