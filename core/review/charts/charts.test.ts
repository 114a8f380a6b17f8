import { JSDOM } from 'jsdom';
import * as fc from 'fast-check';
import { sideRun, type SideCase } from '../../compare/testing';
import { laneOf } from '../../figures/lane';
import { at, figuresOf } from '../../testing';
import { USUAL_VOICE } from '../../words/headline';
import type { ChartedDifference, ReviewDevice, ReviewRun } from '../model';
import { specFacts } from '../spec';
import { chartSvg, PICTURE_SIZES, type Chart } from './chart';
import { comparisonChart } from './comparisonChart';
import { drainChart } from './drainChart';
import { fit, textWidth, wrap } from './draw';
import { lanesChart } from './lanesChart';
import { specCards } from './specCard';
import { titlesChart } from './titlesChart';
import { warmthChart } from './warmthChart';

const run = (name: string, device: string, more: SideCase = {}): ReviewRun => ({
  ...sideRun({ ...more, stated: { device, title: name, ...more.stated } }),
  id: `${name} ${device}`,
  name: `${name} on ${device}`,
  startedAt: null,
  kind: null,
  demand: null,
  caveats: [],
  confidences: { pace: 'A', warmth: 'A', drain: 'A' },
  lane: laneOf(figuresOf(more), more.facts?.target ?? null),
});
const skin = (spot: string, c: number) => ({ type: 'skin' as const, atMs: 60_000, spot, c, by: 'infrared' });
const measured: ReviewRun[] = [
  run('Aurelune', 'Velm 5', {
    frames: at(55, 1000),
    entries: [
      skin('back by the camera', 44),
      skin('front', 38),
      { type: 'battery', atMs: 0, percent: 100, charging: false },
      { type: 'battery', atMs: 300_000, percent: 95, charging: false },
      { type: 'battery', atMs: 900_000, percent: 85, charging: false },
    ],
    facts: { target: 60, roomC: 18 },
    stated: { roomC: 18 },
  }),
  run('Aurelune', 'Kitto Mini', {
    entries: [{ type: 'rate', fps: 33, low: 30, high: 36, by: 'overlay' }, skin('back', 41)],
  }),
];
/** The same runs of a title of any name. */
const runs = (name = 'Aurelune'): ReviewRun[] =>
  measured.map((one) => ({
    ...one,
    name: `${name} on ${one.stated.device}`,
    stated: { ...one.stated, title: name },
  }));
const devices: ReviewDevice[] = [
  {
    name: 'Velm 5',
    kind: 'phone',
    facts: specFacts({ chip: 'Tarn T4', batteryMah: 4700, screens: [{ inches: 6.4, refreshHz: [60, 120] }] }),
    spots: [{ spot: 'front', side: 'front', x: 0.5, y: 0.3 }],
  },
];
const difference = (measure: ChartedDifference['measure'], by: number): ChartedDifference => ({
  measure,
  by,
  interval: [by * 0.9, by * 1.1],
  verdict: 'second better',
  says: '+10 %',
});
const allOf = (name?: string): Chart[] =>
  [
    titlesChart(runs(name), USUAL_VOICE),
    lanesChart(runs(name), USUAL_VOICE),
    warmthChart(runs(name), devices, USUAL_VOICE),
    drainChart(runs(name), USUAL_VOICE),
    ...specCards(devices, runs(name)),
    comparisonChart(
      {
        name: name ?? 'x',
        answer: '',
        pair: {
          sides: ['A', 'B'],
          runs: [1, 2],
          differences: [difference('average', 1.1), difference('peakRise', 3)],
        },
      },
      0,
      USUAL_VOICE,
    ),
  ].filter((chart): chart is Chart => chart !== null);

/** Strict: a picture that is not XML makes an error of it. */
function parsed(svg: string): Element {
  const { documentElement } = new new JSDOM('').window.DOMParser().parseFromString(svg, 'image/svg+xml');
  expect(documentElement.nodeName).toBe('svg');
  return documentElement;
}

const numbers = (element: Element, ...names: string[]): number[] =>
  names.map((name) => Number(element.getAttribute(name) ?? 0));

describe('pictures that go out', () => {
  it('are there for what was measured, and for nothing else', () => {
    expect(allOf().map((chart) => chart.file)).toEqual([
      'titles',
      'lanes',
      'warmth',
      'drain',
      'spec-1',
      'comparison-1',
    ]);
    const bare = [run('Aurelune', 'Velm 5')];
    expect([warmthChart(bare, [], USUAL_VOICE), drainChart(bare, USUAL_VOICE)]).toEqual([null, null]);
    expect(specCards([{ ...devices[0]!, facts: [] }], bare)).toEqual([]);
  });

  it.each([null, ...PICTURE_SIZES])(
    'are XML of their size, with nothing drawn beyond the edge (%o)',
    (size) => {
      for (const chart of allOf()) {
        const svg = parsed(chartSvg(chart, size));
        const [width, height] = numbers(svg, 'width', 'height') as [number, number];
        if (size) expect([width, height]).toEqual([size.width, size.height]);
        expect(svg.querySelector('title')!.textContent).toBe(chart.title);
        expect(svg.querySelector('desc')!.textContent).toContain(chart.small);
        for (const one of svg.querySelectorAll(':scope > rect')) {
          const [x, y, wide, tall] = numbers(one, 'x', 'y', 'width', 'height') as [
            number,
            number,
            number,
            number,
          ];
          expect(Math.min(x, y)).toBeGreaterThanOrEqual(0);
          expect(x + wide).toBeLessThanOrEqual(width + 0.02);
          expect(y + tall).toBeLessThanOrEqual(height + 0.02);
        }
        for (const one of svg.querySelectorAll(':scope > text')) {
          const [x, y, letters] = numbers(one, 'x', 'y', 'font-size') as [number, number, number];
          const wide = textWidth(one.textContent, letters);
          const anchor = one.getAttribute('text-anchor');
          const from = anchor === 'end' ? x - wide : anchor === 'middle' ? x - wide / 2 : x;
          expect(from).toBeGreaterThanOrEqual(-letters);
          expect(from + wide).toBeLessThanOrEqual(width + letters);
          expect(y).toBeLessThanOrEqual(height);
        }
      }
    },
  );

  it.each([null, ...PICTURE_SIZES])(
    'have each temperature within its body, wherever it was read (%o)',
    (size) => {
      for (const unit of ['C', 'F'] as const)
        for (const spot of ['back', 'back left', 'screen middle', 'back by the camera']) {
          const hot = run('Aurelune', 'Velm 5', {
            entries: [{ type: 'skin', atMs: 60_000, spot, c: 43.7, by: 'infrared' }],
          });
          const chart = warmthChart([hot], devices, { ...USUAL_VOICE, unit })!;
          const svg = parsed(chartSvg(chart, size));
          const bodies = [...svg.querySelectorAll('rect[rx]')].map((one) => numbers(one, 'x', 'width'));
          const [said] = [...svg.querySelectorAll('text')].filter((one) => /°[CF]$/.test(one.textContent));
          const [x, letters] = numbers(said!, 'x', 'font-size') as [number, number];
          const wide = textWidth(said!.textContent, letters);
          const anchor = said!.getAttribute('text-anchor');
          const from = anchor === 'end' ? x - wide : anchor === 'middle' ? x - wide / 2 : x;
          expect(
            bodies.some(([left, width]) => from >= left! - 0.1 && from + wide <= left! + width! + 0.1),
          ).toBe(true);
        }
    },
  );

  it('say in small print what they rest on', () => {
    const small = allOf().map((chart) => chart.small.replaceAll('\u00a0', ' '));
    for (const print of small.slice(0, 4))
      expect(print).toMatch(/[Rr]oom 18\.0 °C.*runs? of \d+:\d\d to 16:40/);
    expect(small[0]).toContain('Average: frames divided by time');
    expect(small[2]).toContain('infrared');
    const drawn = chartSvg(allOf()[0]!, PICTURE_SIZES[1]!);
    expect(parsed(drawn).textContent).toContain('percentile of the frame');
  });

  it('hold nobody’s markup, and stay XML, whatever the names are', () =>
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 40 }), (name) => {
        for (const chart of allOf(`<b>${name}</b>\u202e\u{1F600}`)) {
          const svg = parsed(chartSvg(chart, PICTURE_SIZES[1]!));
          expect(svg.querySelector('b')).toBeNull();
        }
      }),
      { numRuns: 15 },
    ));

  it('hatch what was read off, and draw its ends', () => {
    const svg = parsed(chartSvg(titlesChart(runs(), USUAL_VOICE)!, null));
    expect(svg.querySelectorAll('rect[fill="url(#read-titles)"]')).toHaveLength(1);
    expect(svg.textContent).toContain('about 33 fps');
  });

  it('make as many bars as have room, and say how many are missing', () => {
    const many = Array.from({ length: 60 }, (_, i) => ({
      ...measured[0]!,
      id: String(i),
      stated: { ...measured[0]!.stated, title: `Title ${i}` },
    }));
    const svg = parsed(chartSvg(titlesChart(many, USUAL_VOICE)!, PICTURE_SIZES[0]!));
    const bars = svg.querySelectorAll('rect[fill="#1f6685"]').length;
    expect(bars).toBeGreaterThan(6);
    expect(svg.textContent).toContain(`and ${60 - bars} more in the table`);
  });

  it('show the three best and the three worst lanes of many', () => {
    const many = [60, 58, 55, 50, 45, 40, 35, 30].map((fps) =>
      run(`Runs at ${fps}`, 'Velm 5', { frames: at(fps, 900), facts: { target: 60 } }),
    );
    const chart = lanesChart(many, USUAL_VOICE)!;
    expect(chart.title).toBe('The best 3 lanes and the worst 3');
    const { textContent } = parsed(chartSvg(chart, PICTURE_SIZES[0]!));
    for (const fps of [60, 58, 55, 40, 35, 30]) expect(textContent).toContain(`Runs at ${fps}`);
    for (const fps of [50, 45]) expect(textContent).not.toContain(`Runs at ${fps} on`);
  });
});

describe('letters', () => {
  it('are cut to a width, and broken at blanks', () => {
    fc.assert(
      fc.property(fc.string(), fc.integer({ min: 20, max: 400 }), (content, width) => {
        expect(textWidth(fit(content, width, 10), 10)).toBeLessThanOrEqual(Math.max(width, 20));
        for (const one of wrap(content, width, 10))
          expect(textWidth(one, 10)).toBeLessThanOrEqual(Math.max(width, 20));
      }),
    );
    expect(wrap('one two three', 50, 10)).toEqual(['one two', 'three']);
  });
});
