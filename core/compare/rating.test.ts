import * as fc from 'fast-check';
import { RATING_PARTS, type RatingPart } from '../vocabulary';
import { at } from '../testing';
import { sayOrder } from '../words/ratingWords';
import {
  overallOf,
  rateDevices,
  RatingDraws,
  USUAL_WEIGHTS,
  type RatedDevice,
  type RatingWeights,
} from './rating';
import { rateRuns, type RunToRate } from './rateRuns';
import { turningPoints } from './turningPoints';
import { sideRun, type SideCase } from './testing';

const device = (name: string, values: (number | null)[], sd = 0): RatedDevice => ({
  name,
  parts: Object.fromEntries(RATING_PARTS.map((part, i) => [part, values[i] ?? null])) as RatedDevice['parts'],
  sd: Object.fromEntries(RATING_PARTS.map((part) => [part, sd])),
});
const only = (...parts: RatingPart[]): RatingWeights =>
  Object.fromEntries(RATING_PARTS.map((part) => [part, parts.includes(part) ? 1 : 0])) as RatingWeights;

describe('overall', () => {
  it('is the weighted mean over what is there, with the missing part at 0 and at 100', () => {
    const found = overallOf(device('a', [80, null, 60, 40, 20]).parts, USUAL_WEIGHTS);
    expect(found.overall).toBeCloseTo((25 * 80 + 30 * 60 + 15 * 40 + 10 * 20) / 80, 12);
    expect([found.low, found.high]).toEqual([46, 66]);
    expect(found.partial).toBe(true);
  });
  it('leaves out a part of weight 0 altogether, missing or not', () =>
    expect(overallOf(device('a', [80, null, 60]).parts, only('pace', 'stamina'))).toEqual({
      overall: 70,
      low: 70,
      high: 70,
      partial: false,
    }));
  it('is nothing without a part, and refuses weights of nothing', () => {
    expect(overallOf(device('a', []).parts, USUAL_WEIGHTS)).toEqual({
      overall: null,
      low: 0,
      high: 100,
      partial: true,
    });
    expect(() => overallOf(device('a', [1]).parts, only())).toThrow(RangeError);
    expect(() => overallOf(device('a', [1]).parts, { ...USUAL_WEIGHTS, pace: -1 })).toThrow(RangeError);
  });
});

describe('how sure the order is', () => {
  it('one that is better in everything leads always', () =>
    expect(
      rateDevices([device('a', [90, 90, 90, 90, 90]), device('b', [80, 80, 80, 80, 80])]).map((d) => d.leads),
    ).toEqual([1, 0]));

  it('two parts turned about: each leads under half of all weightings', () => {
    const [a, b] = rateDevices([device('a', [80, 60]), device('b', [60, 80])], only('pace', 'evenness'));
    expect(a!.leads).toBeCloseTo(0.5, 1);
    expect(a!.leads + b!.leads).toBeCloseTo(1, 9);
  });

  it('a missing part is anything: it beats 80 in a fifth of the draws', () => {
    const [a] = rateDevices([device('a', [null]), device('b', [80])], only('pace'));
    expect(a!.leads).toBeGreaterThan(0.18);
    expect(a!.leads).toBeLessThan(0.22);
  });

  it('two normals of one spread: the lead follows the normal distribution', () => {
    // 50 against 52 with 2 each: Φ(2 / (2·√2)) = 0.7602 (table of the normal distribution, memory)
    const [, b] = rateDevices([device('a', [50], 2), device('b', [52], 2)], only('pace'));
    expect(b!.leads).toBeGreaterThan(0.745);
    expect(b!.leads).toBeLessThan(0.775);
  });

  it('places add up to one, by device and by place', () => {
    const rated = [
      device('a', [50, 60, 70], 5),
      device('b', [55, 50, 72], 5),
      device('c', [null, 80, 40], 5),
    ];
    const places = new RatingDraws(3, rated).places(USUAL_WEIGHTS);
    for (const row of places) expect(row.reduce((sum, x) => sum + x, 0)).toBeCloseTo(1, 9);
    for (const place of [0, 1, 2])
      expect(places.reduce((sum, row) => sum + row[place]!, 0)).toBeCloseTo(1, 9);
  });
});

describe('turning points', () => {
  const value = fc.option(fc.integer({ min: 0, max: 100 }), { nil: null, freq: 6 });
  const devices = fc.array(fc.array(value, { minLength: 5, maxLength: 5 }), { minLength: 2, maxLength: 5 });
  const weights = fc.array(fc.integer({ min: 1, max: 50 }), { minLength: 5, maxLength: 5 });

  it('are where a brute-force search finds another leader', () => {
    fc.assert(
      fc.property(devices, weights, (rows, numbers) => {
        const rated = rows.map((row, i) => device(String(i), row));
        const weighted = Object.fromEntries(
          RATING_PARTS.map((part, i) => [part, numbers[i]!]),
        ) as RatingWeights;
        const wrong: string[] = [];
        for (const { part, ranges } of turningPoints(rated, weighted)) {
          const others = RATING_PARTS.reduce((sum, other) => sum + (other === part ? 0 : weighted[other]), 0);
          for (let step = 1; step < 200; step++) {
            const share = step / 200;
            const overall = rated.map(
              ({ parts }) =>
                overallOf(parts, { ...weighted, [part]: (others * share) / (1 - share) }).overall ??
                -Infinity,
            );
            const best = Math.max(...overall);
            if (best === -Infinity) continue;
            // on a turning point itself both lead
            const inside = ranges.filter((range) => range.from <= share + 1e-9 && range.to >= share - 1e-9);
            // a hundred thousand shares: what is wrong is collected, and expected once
            if (!inside.some((range) => Math.abs(overall[range.leader]! - best) < 1e-6))
              wrong.push(`${part} at ${share}`);
          }
        }
        expect(wrong).toEqual([]);
      }),
      { numRuns: 60 },
    );
  });

  it('by hand: 80 and 20 against 60 and 60 turn where the second part has a third', () => {
    const points = turningPoints(
      [device('a', [80, null, null, 20]), device('b', [60, null, null, 60])],
      only('pace', 'warmth'),
    );
    // 80 − 60x = 60
    expect(points.find(({ part }) => part === 'warmth')!.ranges).toEqual([
      { from: 0, to: expect.closeTo(1 / 3, 12) as number, leader: 0 },
      { from: expect.closeTo(1 / 3, 12) as number, to: 1, leader: 1 },
    ]);
  });

  it('are said in words', () => {
    const rated = [device('Velm 5', [90, 90, 80, 30, 50]), device('Kitto Mini', [60, 70, 70, 95, 50])];
    const says = sayOrder(rateDevices(rated), turningPoints(rated, USUAL_WEIGHTS));
    expect(says[0]).toMatch(/^Velm 5 is first in \d+\u00a0% of all weightings\.$/);
    expect(says[1]).toMatch(/^If warmth counts for more than .* \(now 15\u00a0%\), Kitto Mini is first\.$/);
  });
});

describe('parts from runs', () => {
  const noSpread = (): number => 0;
  const run = (
    title: string,
    { synthetic = false, ...rest }: SideCase & { synthetic?: boolean },
  ): RunToRate => ({
    ...sideRun({ ...rest, stated: { title, target: 60, ...rest.stated } }),
    synthetic,
  });

  it('of titles that all have, repeats first; others are told with the reason', () => {
    const { devices, common, leftOut } = rateRuns(
      [
        {
          name: 'a',
          runs: [
            run('Aurelune', { frames: at(60, 1000) }),
            run('Aurelune', { frames: at(45, 1000) }),
            run('Saltmarsh Drift', { frames: at(60, 1000) }),
            run('Relay', { frames: at(60, 1000), stated: { conditions: ['streamed'] } }),
            run('Score', { frames: at(60, 1000), synthetic: true }),
            run('Skiff 120', { frames: at(60, 1000) }),
          ],
        },
        {
          name: 'b',
          runs: [
            run('Aurelune', { frames: at(30, 1000) }),
            run('Saltmarsh Drift', { frames: at(45, 1000) }),
            run('Relay', { frames: at(60, 1000) }),
            run('Score', { frames: at(60, 1000) }),
          ],
        },
      ],
      noSpread,
    );
    expect(common).toEqual(['Aurelune', 'Saltmarsh Drift']);
    expect(leftOut).toEqual([
      { title: 'Relay', reason: 'streamed' },
      { title: 'Score', reason: 'synthetic' },
      { title: 'Skiff 120', reason: 'not on all' },
    ]);
    // a: ((100 + 50) / 2 + 100) / 2; b: (0 + 50) / 2
    expect(devices[0]!.parts.pace).toBeCloseTo(87.5, 1);
    expect(devices[1]!.parts.pace).toBeCloseTo(25, 1);
  });

  it('what did not start or crashed has no pace, evenness and stamina', () => {
    const dns = run('Aurelune', { entries: [{ type: 'end', atMs: 5000, reason: 'would-not-start' }] });
    const { devices } = rateRuns([{ name: 'a', runs: [dns] }], noSpread);
    expect(devices[0]!.parts).toEqual({ pace: 0, evenness: 0, stamina: 0, warmth: null, drain: null });
  });

  it('runs between the ends of each scale, and its spread follows the run’s', () => {
    const warm = run('Aurelune', {
      frames: at(45, 1000),
      facts: { target: 60, roomC: 25, batteryWh: 18 },
      entries: [{ type: 'skin', atMs: 500_000, spot: 'back', c: 42, by: 'infrared' }],
    });
    const { devices } = rateRuns([{ name: 'a', runs: [warm] }], () => 0.02);
    expect(devices[0]!.parts.warmth).toBeCloseTo(50, 9);
    expect(devices[0]!.parts.stamina).toBeCloseTo(100, 9);
    // 45 of 60 with 2 %: 100 / 0.5 · 0.75 · 0.02
    expect(devices[0]!.sd.pace).toBeCloseTo(3, 1);
  });
});
