import { factsOf, runInput } from '../runFile/runInput';
import type { EntryLine } from '../runFile/lines';
import { SeededRandom } from '../numbers/random';
import { sayLimits, saySign } from '../words/limitWords';
import { analyse } from './analyse';
import { limitsOf, type LimitContext, type LimitFindings } from './limits';

const ALONE: LimitContext = { kind: 'native', setup: null, siblings: [] };

/** A run of seconds at paces, with what was measured beside them. */
function found(
  paces: number[],
  entries: EntryLine[] = [],
  { refresh = 120, ...context }: Partial<LimitContext> & { refresh?: number } = {},
): LimitFindings {
  const random = new SeededRandom(3);
  const us = paces.flatMap((fps) =>
    Array.from({ length: Math.round(fps) }, () => Math.round((1e6 / fps) * (1 + 0.01 * random.normal()))),
  );
  const { figures } = analyse(
    runInput(
      { frameUs: Int32Array.from(us), gaps: [] },
      { dropped: 0, cutOff: false, entries },
      { ...factsOf(null), target: 60, refreshHz: refresh },
    ),
  );
  return limitsOf(figures, { ...ALONE, ...context });
}
const steady = (fps: number, seconds = 1200): number[] => new Array<number>(seconds).fill(fps);
/** A pace that no cap explains. */
const rough = (around: number, seconds = 1200): number[] =>
  Array.from({ length: seconds }, (_, i) => around + 4 * Math.sin(i / 7));
const each = (seconds: number, line: (atMs: number) => EntryLine): EntryLine[] =>
  Array.from({ length: Math.floor(seconds / 10) }, (_, i) => line(i * 10_000));
const load = (gpu: number, cpu = 40): EntryLine[] => each(1200, (atMs) => ({ type: 'load', atMs, gpu, cpu }));
const says = (findings: LimitFindings): string => sayLimits(findings);
const signs = ({ candidates }: LimitFindings, limit: string, side: 'for' | 'against' | 'open'): string[] =>
  candidates.find((one) => one.limit === limit)![side].map((sign) => saySign(sign, 'C'));

it('at the cap nothing else can be told', () => {
  const findings = found(steady(60), load(71));
  expect(findings.likely).toEqual(['cap']);
  expect(says(findings)).toBe('The frame cap.');
  expect(signs(findings, 'graphics', 'open')).toEqual(['71\u00a0% load does not prove spare capacity']);
  expect(signs(findings, 'panel', 'against')[0]).toContain('the screen can show 120');
});
it('a cap that is the panel’s rate may be either: never one word', () =>
  expect(says(found(steady(60), [], { refresh: 60 }))).toBe(
    'The frame cap or the screen’s refresh rate: this run does not show which.',
  ));
it('graphics that are busy throughout, below any cap', () => {
  const findings = found(rough(45), load(98));
  expect(findings.likely).toEqual(['graphics']);
  expect(says(findings)).toBe(
    'Graphics, according to this run; the processor, a power limit and driver or layer are also possible.',
  );
});
it('graphics that wait point at the processor', () =>
  expect(found(rough(45), load(30)).likely).toEqual(['processor']));
it('a pace that falls with warmth', () => {
  const skin = each(1200, (atMs) => ({
    type: 'skin',
    atMs,
    spot: 'back',
    c: Math.round((44 - 20 * Math.exp(-atMs / 300_000)) * 10) / 10,
    by: 'infrared',
  }));
  const findings = found(
    [...steady(58, 500), ...steady(40, 700)],
    [...skin, { type: 'chip', atMs: 0, part: 'cpu', c: 93 }],
  );
  expect(findings.likely).toEqual(['heat']);
  expect(signs(findings, 'heat', 'for')).toEqual([
    expect.stringMatching(
      /^the pace fell at 8:\d\d, the hottest spot at 4\d\.\d.°C, and ended at 69.% of its opening$/,
    ),
    'chip temperature 93.0\u00a0°C',
  ]);
});
it('a pace that holds speaks against heat', () =>
  expect(signs(found(rough(45)), 'heat', 'against')[0]).toMatch(/^it ended at (9[7-9]|10\d).%/));
it('power that lies flat below any cap', () => {
  const watts = each(1200, (atMs) => ({ type: 'power', atMs, mw: 15_000 + ((atMs / 10_000) % 3) * 60 }));
  expect(found(rough(45), watts).likely).toEqual(['power limit']);
  expect(signs(found(steady(60), watts), 'power limit', 'open')).toEqual([
    'power is constant at 15.1\u00a0W',
  ]);
});
it('what was measured of a layer and of a link', () => {
  expect(signs(found(rough(30), [], { kind: 'translated' }), 'driver or layer', 'open')).toEqual([
    'it runs through a translation layer',
  ]);
  const lost = each(1200, (atMs) => ({ type: 'link', atMs, latencyMs: 40, lossPercent: 3 }));
  expect(found(rough(45), lost, { kind: 'streamed' }).likely).toEqual(['link']);
  expect(found(rough(45), lost).candidates.map((one) => one.limit)).not.toContain('link');
});
it('the same chip that is faster in another body', () => {
  const findings = found(rough(45), [], {
    siblings: [{ device: 'Oru Fold', setup: null, sameDevice: false, sameChip: true, average: 58 }],
  });
  expect(signs(findings, 'graphics', 'against')[0]).toBe(
    'Oru Fold, with the same chip, was 29\u00a0% faster',
  );
  // it held its pace: what speaks for heat does not stand alone
  expect(findings.likely).toEqual([]);
});
it('without frames and without anything beside them it says so', () =>
  expect(says(found([], [{ type: 'rate', atMs: 0, fps: 40, by: 'eye' }]))).toMatch(
    /^No clear limit in this run; /,
  ));
