import { plannedEndId } from '@pace-check/contract';
import type { BenchChange, BenchEntry, CoolChange, CoolWatch, Recording } from '@pace-check/contract';
import { changeRun, Lines, type EntryLine, type LiveFigures, type RecordedRun } from '@pace-check/core';
import fc from 'fast-check';
import type { Waiting } from '../../outbox/outbox';
import { mergeRun, type ShownEntry } from './merge';
import { mergeWatches } from './mergeWatches';
import { readyAt } from './readyAt';
import { coolDown } from '@pace-check/core';
import { sayDue, sayEntry, sayWarning } from './say';
import { benchView, numberOf, paceNow, PERCENT, roundOf, splitNow, tellOf, slowsAtS, tapped } from './view';
import { RECORDING as recording, skin } from '../../testing/bench';

const celsius = (value: number): string => `${value.toFixed(1)} °C`;
const entry = (id: string, line: EntryLine, more: Partial<BenchEntry> = {}): BenchEntry => ({
  id,
  line,
  open: false,
  source: null,
  writer: 'other',
  takenBack: false,
  ...more,
});
const put = (id: string, line: EntryLine): BenchChange => ({
  id: `put ${id}`,
  kind: 'put',
  entry: id,
  line,
  open: false,
  writer: 'me',
});
const RUN = '11111111-1111-4111-8111-111111111111';
let places = 0;
const waits = (change: BenchChange, refused: string | null = null): Waiting<'bench'> => ({
  n: places++,
  to: 'bench',
  id: RUN,
  change,
  refused,
});
const NOW = 3_600_000;

const mergeEntries = (
  entries: BenchEntry[],
  taken: BenchChange[],
  waiting: Waiting<'bench'>[],
  of: Recording = recording,
): ShownEntry[] => mergeRun(RUN, { recording: of, entries }, taken, waiting, NOW).entries;
const mergeRecording = (runId: string, server: Recording | null, changes: BenchChange[]): Recording | null =>
  mergeRun(
    runId,
    { recording: server, entries: [] },
    [],
    changes.map((change) => waits(change)),
    NOW,
  ).recording;

describe('lines on the screen', () => {
  it('are the server’s with what was done here on top, in order of time', () => {
    const shown = mergeEntries(
      [entry('a', skin(2000, 30)), entry('b', skin(1000, 29))],
      [],
      [waits(put('c', skin(1500, 31))), waits(put('a', skin(2000, 33)))],
    );
    expect(shown.map(({ id, kept, line }) => [id, kept, line.type === 'skin' && line.c])).toEqual([
      ['b', 'sent', 29],
      ['c', 'here', 31],
      ['a', 'here', 33],
    ]);
  });
  it('leave out what was taken back, there or here', () => {
    expect(
      mergeEntries(
        [entry('a', skin(1, 30), { takenBack: true }), entry('b', skin(2, 30))],
        [],
        [waits({ id: 'x', kind: 'take-back', entry: 'b' })],
      ),
    ).toEqual([]);
  });
  it('keep what is refused, with the reason', () => {
    const shown = mergeEntries([], [], [waits(put('a', skin(1, 30)), 'the field “line.c”')]);
    expect(shown).toEqual([
      expect.objectContaining({ kept: 'refused', refused: 'the field “line.c”', n: expect.any(Number) }),
    ]);
  });
  it('do not blink between being sent and being heard of', () => {
    expect(mergeEntries([], [put('a', skin(1, 30))], [])).toEqual([
      expect.objectContaining({ id: 'a', kept: 'sent' }),
    ]);
  });
  it('hold one end, where somebody else had ended the run when this screen’s word came', () => {
    const own: BenchChange = {
      id: 'x',
      kind: 'end',
      entry: 'mine',
      atMs: 9,
      reason: 'planned',
      writer: 'me',
    };
    const theirs = entry('theirs', { type: 'end', atMs: 8, reason: 'planned' });
    const over: Recording = { ...recording, status: 'ended', end: { atMs: 8, reason: 'planned' } };
    expect(mergeEntries([theirs], [own], [], over).map(({ id }) => id)).toEqual(['theirs']);
    // who ended it before it ended by itself was only heard late
    const itself = { ...theirs, id: plannedEndId(RUN) };
    const earlier: BenchChange = { ...own, atMs: 5, reason: 'crash' };
    expect(mergeEntries([itself], [], [waits(earlier)], over).map(({ id }) => id)).toEqual(['mine']);
  });
  it('hold the end', () =>
    expect(
      mergeEntries(
        [],
        [],
        [waits({ id: 'x', kind: 'end', entry: 'e', atMs: 9, reason: 'crash', writer: 'me' })],
      )[0],
    ).toMatchObject({ line: { type: 'end', atMs: 9, reason: 'crash' } }));
});

describe('a recording on the screen', () => {
  const open: BenchChange = {
    id: 'o',
    kind: 'open',
    facts: { device: 'Velm 5', title: 'Aurelune', setup: null, target: 60, refresh: null },
    preflight: { roomC: 19 },
    plan: recording.plan,
    speed: 1,
    step: null,
  };
  it('is there before the server knows of it', () => {
    expect(mergeRecording(RUN, null, [open, { id: 's', kind: 'start', at: 5000 }])).toMatchObject({
      name: 'Aurelune on Velm 5',
      status: 'running',
      startedAt: 5000,
      roomC: 19,
    });
    expect(mergeRecording(RUN, null, [{ id: 's', kind: 'start', at: 5000 }])).toBeNull();
  });
  it('starts and ends once', () => {
    expect(mergeRecording(RUN, recording, [{ id: 's', kind: 'start', at: 5000 }])).toMatchObject({
      startedAt: 0,
    });
    const ended = mergeRecording(RUN, recording, [
      { id: 'e', kind: 'end', entry: 'x', atMs: 7, reason: 'stopped', writer: 'me' },
      { id: 'f', kind: 'end', entry: 'y', atMs: 9, reason: 'crash', writer: 'me' },
    ]);
    expect(ended).toMatchObject({ status: 'ended', end: { atMs: 7, reason: 'stopped' }, settled: false });
  });
});

describe('a screen ahead of its server', () => {
  const someChange: fc.Arbitrary<BenchChange> = fc
    .oneof(
      fc.constant({ kind: 'start' as const, at: 1000 }),
      fc.record({
        kind: fc.constant('put' as const),
        entry: fc.constantFrom('a', 'b'),
        line: fc.integer({ min: 20, max: 45 }).map((c) => skin(2000 + c, c)),
        open: fc.constant(false),
        writer: fc.constant('me'),
      }),
      fc.record({ kind: fc.constant('take-back' as const), entry: fc.constantFrom('a', 'b') }),
      fc.record({
        kind: fc.constant('end' as const),
        entry: fc.constantFrom('mine', plannedEndId(RUN)),
        atMs: fc.integer({ min: 0, max: 60_000 }),
        reason: fc.constantFrom('planned' as const, 'crash' as const),
        writer: fc.constant('me'),
      }),
    )
    .map((change) => ({ ...change, id: 'x' }));
  const ready: Recording = { ...recording, runId: RUN, status: 'ready', startedAt: null };

  it('shows what the server will have: however many it has been told of, or only taken', () =>
    fc.assert(
      fc.property(
        fc.array(someChange, { maxLength: 10 }),
        fc.nat({ max: 10 }),
        fc.nat({ max: 10 }),
        (changes, told, taken) => {
          // the server, by the rulebook itself
          let run: RecordedRun<Recording['plan']> = { ...ready, startedMs: null };
          const lines = new Lines([]);
          const states = [{ run, entries: lines.all() }];
          for (const change of changes) {
            if (change.kind === 'open') continue;
            const made = changeRun(run, lines, change, { nowMs: NOW, plannedEnd: plannedEndId(RUN) });
            if (!made.refused) {
              run = made.run;
              lines.set(made.lines);
            }
            states.push({ run, entries: lines.all() });
          }
          const known = states[Math.min(told, changes.length)]!;
          const shown = mergeRun(
            RUN,
            {
              recording: {
                ...ready,
                status: known.run.status,
                startedAt: known.run.startedMs,
                end: known.run.end,
              },
              entries: known.entries,
            },
            changes.slice(told, told + taken),
            changes.slice(told + taken).map((change) => waits(change)),
            NOW,
          );
          const { status, startedMs, end } = run;
          expect(shown.recording).toMatchObject({ status, startedAt: startedMs, end });
          expect(shown.entries.map(({ id, line }) => [id, line])).toEqual(
            lines.standing().map(({ id, line }) => [id, line]),
          );
        },
      ),
      { numRuns: 500 },
    ));
});

describe('what the lines say', () => {
  const view = (
    lines: EntryLine[],
    nowMs: number,
    more: Partial<Recording> = {},
  ): ReturnType<typeof benchView> => benchView({ ...recording, ...more }, tellOf(lines, null), nowMs);
  it('warns from 43 °C, and says stop from 48', () => {
    expect(view([skin(1, 42.9)], 2).warnings).toEqual([]);
    expect(view([skin(1, 43)], 2).warnings).toEqual([
      { grave: false, what: 'caution', value: 43, spot: 'back' },
    ]);
    expect(view([skin(1, 48), skin(1, 30, 'front')], 2).warnings[0]).toMatchObject({
      grave: true,
      what: 'stop',
    });
    expect(sayWarning(view([skin(1, 48.2)], 2).warnings[0]!, celsius)).toEqual({
      title: '48.2 °C: stop and put the device down',
      why: expect.stringContaining('skin can burn'),
    });
  });
  it('goes by the latest reading of each spot, and not by what cannot be', () => {
    expect(view([skin(1, 44), skin(500_000, 41)], 500_001).warnings).toEqual([]);
    expect(view([skin(1, 30), skin(2, 300)], 3).warnings).toEqual([]);
  });
  it('tells of floor, planned end and a source that has ended', () => {
    const source = {
      id: 's',
      name: 'handset',
      kind: 'handset' as const,
      standIn: true,
      revoked: false,
      ended: 'crash' as const,
      frames: 1,
      lines: 1,
      refused: 0,
      refusals: [],
      held: 0,
      heardAt: 0,
    };
    const warnings = view([{ type: 'battery', atMs: 1, percent: 20 }], 1_800_000, {
      sources: [source],
    }).warnings;
    expect(warnings.map(({ what }) => what)).toEqual(['source-ended', 'floor', 'planned-end']);
    expect(sayWarning(warnings[0]!, celsius).title).toBe('The title has crashed');
    expect(
      view([{ type: 'battery', atMs: 1, percent: 20 }], 1_800_000, { status: 'ended' }).warnings,
    ).toEqual([]);
  });
  it('offers to end a run whose crash was noted', () => {
    const [warning] = view([{ type: 'mark', atMs: 492_000, kind: 'crash' }], 500_000).warnings;
    expect(sayWarning(warning!, celsius).title).toBe('Crash recorded at 8:12');
  });
  it('asks for the readings of the round, the battery where no handset tells it', () => {
    expect(roundOf(recording)).toEqual(['back', 'front', PERCENT]);
    expect(view([skin(1000, 20), skin(2000, 20, 'front')], 3000).due).toEqual({ spot: PERCENT, dueMs: 0 });
    expect(view([], 3000, { status: 'ended' }).due).toBeNull();
    expect(view([], 3000, { plan: { ...recording.plan, everyMin: null } }).due).toBeNull();
  });
  it('foretells only what the method allows', () => {
    const warming = (minutes: number[]): EntryLine[] =>
      minutes.map((minute) =>
        skin(minute * 60_000, 44 - 24 * Math.exp(-minute / 6) + (minute % 2 ? 0.1 : -0.1)),
      );
    expect(view(warming([0, 1, 2]), 130_000).forecasts).toEqual([]);
    const [forecast] = view(warming([0, 2, 5, 8, 11, 14]), 850_000).forecasts;
    expect(forecast!.finalC).toBeCloseTo(44, 0);
    expect(forecast!.settlesInS).toBeGreaterThan(0);
    expect(forecast!.cautionAtS! / 60).toBeCloseTo(6 * Math.log(24), -1);
  });
});

describe('pace on the screen', () => {
  const figures = (more: Partial<LiveFigures>): LiveFigures => ({
    seconds: 0,
    frames: 0,
    average: null,
    median: null,
    hold: null,
    onePercentLow: null,
    tenthPercentLow: null,
    breaks: { stutter: 0, stall: 0, freeze: 0 },
    splits: [],
    opening: null,
    recent: [],
    approximate: [],
    ...more,
  });
  const split = (average: number): LiveFigures['splits'][number] => ({
    fromS: 0,
    toS: 0,
    average,
    onePercentLow: null,
  });
  it('is that of the last second that has one', () => {
    expect(paceNow(figures({ recent: [60, 58.5, null] }))).toBe(58.5);
    expect(paceNow(figures({ recent: [null] }))).toBeNull();
  });
  it('stands beside the split before and the opening', () => {
    expect(splitNow(figures({ splits: [split(59), split(55)], opening: 59.5 }))).toEqual({
      number: 2,
      average: 55,
      before: 59,
      opening: 59.5,
    });
    expect(splitNow(figures({}))).toBeNull();
  });
});

describe('numbers as they are tapped', () => {
  it.each([
    ['412', 'skin', 'C', 41.2],
    ['41.2', 'skin', 'C', 41.2],
    ['41', 'skin', 'C', 41],
    ['1061', 'skin', 'F', 41.166],
    ['104', 'skin', 'F', 40],
    ['87', 'percent', 'C', 87],
    ['101', 'percent', 'C', null],
    ['120', 'rate', 'C', 120],
    ['.', 'skin', 'C', null],
    ['', 'skin', 'C', null],
    ['5000', 'rate', 'C', null],
  ] as const)('%s as %s in °%s', (text, measured, unit, value) => {
    const read = numberOf(text, measured, unit);
    if (value === null) expect(read).toBeNull();
    else expect(read).toBeCloseTo(value, 2);
  });
});

describe('words', () => {
  it('say lines plainly', () => {
    expect(sayEntry(skin(0, 41.2), 'C')).toBe('41.2 °C at back, infrared');
    expect(sayEntry({ type: 'rate', atMs: 0, fps: 40, by: 'eye' }, 'C')).toBe('about 40 fps, by eye');
    expect(sayEntry({ type: 'span', fromMs: 0, toMs: 65_000, kind: 'menu' }, 'C')).toBe('menu until 1:05');
    expect(sayEntry({ type: 'span', fromMs: 0, toMs: 0, kind: 'menu' }, 'C', true)).toBe('menu on');
    expect(sayEntry({ type: 'end', atMs: 0, reason: 'crash' }, 'C')).toBe('end, crashed');
  });
  it('count down to a reading, and up from it', () =>
    expect([sayDue(40_000, 0), sayDue(0, 1000), sayDue(0, 65_000)]).toEqual([
      'due in 0:40',
      'due now',
      'overdue since 1:05',
    ]));
});

describe('a cool-down', () => {
  const ready = (one: CoolWatch, nowS: number): ReturnType<typeof readyAt> =>
    readyAt(one, coolDown(one.readings), nowS);
  const watch = (readings: [number, number][], more: Partial<CoolWatch> = {}): CoolWatch => ({
    id: 'c',
    device: 'Velm 5',
    spot: 'back',
    knownTauS: null,
    roomC: 20,
    readyC: 23,
    startedAt: 0,
    readings: readings.map(([atS, c], i) => ({ id: String(i), atS, c })),
    ...more,
  });
  const down = (tau: number): [number, number][] =>
    [0, 200, 400, 700].map((s) => [s, 20 + 20 * Math.exp(-s / tau)]);
  it('is ready when its curve says so', () =>
    expect(ready(watch(down(500)), 700)).toMatchObject({
      kind: 'at',
      from: 'curve',
      atS: expect.closeTo(500 * Math.log(20 / 3), 0),
    }));
  it('goes by the device’s earlier ones until there is a curve', () => {
    expect(ready(watch([[0, 40]], { knownTauS: 500 }), 10)).toMatchObject({
      from: 'own',
      atS: expect.closeTo(500 * Math.log(20 / 3), 0),
    });
    expect(ready(watch([[0, 40]]), 10)).toEqual({ kind: 'at', atS: null, from: 'unknown' });
  });
  it('is ready when a reading says so, and never where its curve stays above', () => {
    expect(
      ready(
        watch([
          [0, 40],
          [900, 22.9],
        ]),
        1000,
      ),
    ).toEqual({ kind: 'ready', atS: 900 });
    expect(ready(watch(down(500), { readyC: 19 }), 700).kind).toBe('never');
  });
  it('is shown with what was done here', () => {
    const change = (one: CoolChange): Waiting => ({
      n: 1,
      to: 'cool-down',
      id: 'c',
      change: one,
      refused: null,
    });
    const begun = mergeWatches(
      [],
      [
        change({
          id: '1',
          kind: 'watch',
          device: 'Velm 5',
          spot: 'back',
          roomC: 20,
          readyC: 23,
          startedAt: 1000,
        }),
        change({ id: '2', kind: 'reading', reading: 'r', at: 61_000, c: 35 }),
      ],
    );
    expect(begun[0]!.readings).toEqual([{ id: 'r', atS: 60, c: 35 }]);
    expect(mergeWatches(begun, [change({ id: '3', kind: 'take-back', reading: 'r' })])[0]!.readings).toEqual(
      [],
    );
    expect(mergeWatches(begun, [change({ id: '4', kind: 'done' })])).toEqual([]);
  });
});

describe('what is tapped', () => {
  it.each([
    ['58', 'rate', { value: 58 }],
    ['58.0', 'rate', { value: 58, decimals: 1 }],
    ['50–55', 'eye', { low: 50, high: 55 }],
    ['55–50', 'rate', null],
    ['50–', 'rate', null],
    ['50–55', 'percent', null],
    ['9.5', 'watts', { value: 9.5 }],
    ['98', 'speed', { value: 98 }],
  ] as const)('%s as %s', (text, measured, read) => expect(tapped(text, measured, 'C')).toEqual(read));
});

describe('a run that slows down', () => {
  const live = (...averages: number[]): Parameters<typeof slowsAtS>[0] =>
    ({
      opening: 60,
      splits: averages.map((average, i) => ({
        fromS: i * 300,
        toS: (i + 1) * 300,
        average,
        onePercentLow: null,
      })),
    }) as never;
  it('does so from the first split that stays below 95 % of the opening', () => {
    expect(slowsAtS(live(60, 59, 50, 49))).toBe(600);
    expect(slowsAtS(live(60, 50, 60))).toBeNull();
    expect(slowsAtS(live(60, 60))).toBeNull();
  });
  it('is not told to settle above where it has been for minutes', () => {
    // it warmed towards 49 °C, slowed down at minute 12, and falls towards 40
    const lines: EntryLine[] = [];
    let c = 20;
    for (let minute = 0; minute <= 40; minute++) {
      lines.push({ type: 'skin', atMs: minute * 60_000, spot: 'back', c, by: 'infrared' });
      const level = minute < 12 ? 49 : 40;
      c = level - (level - c) * Math.exp(-60 / 400);
    }
    const [told] = tellOf(lines, 20, 720).spots;
    expect(told!.fit!.finalC).toBeCloseTo(40, 3);
  });
});
