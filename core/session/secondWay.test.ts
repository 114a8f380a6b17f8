import * as fc from 'fast-check';
import { Matrix, SVD, solve } from 'ml-matrix';
import type { EntryLine } from '../runFile/lines';
import { factsOf, runInput } from '../runFile/runInput';
import { sessionFigures, type SessionFigures } from './session';

// rates and levels by the normal equations, rank by singular values: another way with another library (ml-matrix)

const MIN = 60_000;
const HEADER = { type: 'run', version: 1, title: 'A' } as const;
const figures = (entries: EntryLine[], endMin: number): SessionFigures =>
  sessionFigures(
    runInput(
      { frameUs: new Int32Array(0), gaps: [] },
      { dropped: 0, cutOff: false, entries },
      factsOf(HEADER),
    ),
    HEADER,
    entries,
    endMin * 60,
  );
const normalEquations = (columns: number[][], y: number[]): number[] => {
  const a = new Matrix(columns).transpose();
  return solve(a.transpose().mmul(a), a.transpose().mmul(Matrix.columnVector(y))).to1DArray();
};
const title = (minute: number, name: string): EntryLine => ({
  type: 'title',
  atMs: minute * MIN,
  title: name,
});

/** Readings, each a percent or more below the one before, and when B and C were played. */
const batteries = fc
  .record({
    drops: fc.array(fc.tuple(fc.integer({ min: 1, max: 3 }), fc.integer({ min: 2, max: 9 })), {
      minLength: 2,
      maxLength: 18,
    }),
    toB: fc.integer({ min: 1, max: 60 }),
    toC: fc.integer({ min: 61, max: 120 }),
    topUpAfter: fc.option(fc.integer({ min: 1, max: 16 })),
  })
  .map(({ drops, toB, toC, topUpAfter }) => {
    let [percent, minute] = [100, 0];
    const groups: { minute: number; percent: number }[][] = [[{ minute, percent }]];
    const spans: EntryLine[] = [];
    drops.forEach(([points, minutes], i) => {
      if (topUpAfter === i) {
        spans.push({
          type: 'span',
          fromMs: (minute + 0.5) * MIN,
          toMs: (minute + 4) * MIN,
          kind: 'charging',
        });
        minute += 5;
        groups.push([{ minute, percent: (percent = Math.min(100, percent + 4)) }]);
      }
      minute += minutes;
      percent -= points;
      groups.at(-1)!.push({ minute, percent });
    });
    return {
      groups: groups.filter((group) => group.length > 1),
      all: groups.flat(),
      spans,
      toB,
      toC,
      endMin: minute,
    };
  });

it('drain by title: the same rates, the same rank', () =>
  fc.assert(
    fc.property(batteries, ({ groups, all, spans, toB, toC, endMin }) => {
      const ends = [0, toB, toC].map((from) => Math.min(from, endMin));
      const { drain } = figures(
        [
          ...all.map(({ minute, percent }): EntryLine => ({ type: 'battery', atMs: minute * MIN, percent })),
          ...spans,
          title(toB, 'B'),
          title(toC, 'C'),
        ],
        endMin,
      );
      if (drain === null) return;
      const within = (u: number, from: number, to: number): number =>
        Math.max(0, Math.min(to, ends[u + 1] ?? endMin) - Math.max(from, ends[u]!)) / 60;
      const played = [0, 1, 2].filter((u) =>
        groups.some((group) => within(u, group[0]!.minute, group.at(-1)!.minute) > 0),
      );
      // the first reading of a stretch counts only where the next one is lower by two
      const points = groups.flatMap((group, g) =>
        group
          .filter((point, i) => i > 0 || point.percent - group[1]!.percent >= 2)
          .map((point) => ({ ...point, g, from: group[0]!.minute })),
      );
      const columns = [
        ...groups.map((_, g) => points.map((point) => (point.g === g ? 1 : 0))),
        ...played.map((u) => points.map((point) => -within(u, point.from, point.minute))),
      ];
      const singular =
        columns.length > points.length ? [] : new SVD(new Matrix(columns).transpose()).diagonal;
      const full = singular.filter((value) => value > 1e-9 * Math.max(...singular)).length === columns.length;
      const apart = full && points.length >= played.length + groups.length + 1;
      expect(drain.separable).toBe(apart);
      if (!apart) return;
      const rates = normalEquations(
        columns,
        points.map((point) => point.percent),
      ).slice(groups.length);
      played.forEach((u, i) => {
        const own = drain.rates.find((rate) => rate.title === 'ABC'[u]);
        expect(own?.percentPerHour).toBeCloseTo(rates[i]!, 6);
      });
    }),
    { numRuns: 300 },
  ));

it('warmth by state: the same levels for the time constant that was found', () =>
  fc.assert(
    fc.property(
      fc.array(fc.integer({ min: -9, max: 9 }), { minLength: 40, maxLength: 40 }),
      fc.integer({ min: 15, max: 25 }),
      (noise, off) => {
        // A, A with a cooler, A again, B; a reading every two minutes
        const levelAt = (minute: number): number =>
          minute < 10 ? 40 : minute < off + 15 ? 35 : minute < 60 ? 40 : 44;
        let c = 24;
        const readings = noise.map((tenths, i) => {
          for (let s = 0; s < 120; s++) c += (levelAt(2 * i + s / 60) - c) / 300;
          return { minute: 2 * i + 2, c: c + tenths / 30 };
        });
        const warmth = figures(
          [
            ...readings.map((one): EntryLine => ({
              type: 'skin',
              atMs: one.minute * MIN,
              spot: 'back',
              c: one.c,
              by: 'infrared',
            })),
            { type: 'span', fromMs: 10 * MIN, toMs: (off + 15) * MIN, kind: 'cooler' },
            title(60, 'B'),
          ],
          82,
        ).warmth.get('back')!;
        expect(warmth.levels.map((level) => level.state)).toEqual([['A'], ['A', 'cooler'], ['B']]);
        // y follows level after level: its weights, step by step
        const at = [10, off + 15, 60];
        const of = [0, 1, 0, 2];
        const rows = readings.map(({ minute }) => {
          let shares = [1, 0, 0, 0];
          let from = readings[0]!.minute;
          of.forEach((level, k) => {
            const to = Math.min(minute, at[k] ?? Infinity);
            if (to <= from) return;
            const left = Math.exp((-(to - from) * 60) / warmth.tauS);
            shares = shares.map((share, j) => share * left + (j === level + 1 ? 1 - left : 0));
            from = to;
          });
          return shares;
        });
        const [, ...levels] = normalEquations(
          [0, 1, 2, 3].map((j) => rows.map((row) => row[j]!)),
          readings.map((one) => one.c),
        );
        levels.forEach((c0, k) => expect(warmth.levels[k]!.settlesC).toBeCloseTo(c0, 5));
      },
    ),
    { numRuns: 60 },
  ));
