import { sideRun } from '../compare/testing';
import { laneOf } from '../figures/lane';
import type { EntryLine } from '../runFile/lines';
import { figuresOf } from '../testing';
import type { School } from '../words/headline';
import { headline, headlineFacts } from '../words/headline';
import { chartSvg } from './charts/chart';
import { liveFigures } from './liveFigures';
import type { ReviewRun, SectionKind } from './model';
import { reviewCharts, reviewHtml, reviewMarkdown, type WrittenReview } from './page';
import { SECTIONS } from './sections';
import { evidenceOf } from './testing';
import { titleCells, titleTable } from './titleTable';

/** Runs that nobody logged, as practitioners read them: glances, a range, a floor, a panel's counter, speeds, an end page. */
const READ: Record<string, EntryLine[]> = {
  Aurelune: [
    { type: 'rate', atMs: 300_000, low: 51, high: 55, by: 'overlay' },
    { type: 'rate', atMs: 1_500_000, fps: 30, by: 'overlay' },
    { type: 'rate', atMs: 1_680_000, low: 20, high: 30, by: 'overlay' },
  ],
  Hexgarden: [
    { type: 'rate', atMs: 240_000, fps: 120, by: 'overlay' },
    { type: 'rate', atMs: 250_000, fps: 60, by: 'eye' },
    { type: 'rate', atMs: 1_400_000, fps: 50, by: 'eye' },
  ],
  'Pico Harbour': [{ type: 'rate', low: 15, high: 45, by: 'overlay' }],
  'Night Ferry': [{ type: 'rate', low: 31, by: 'overlay' }],
  'Rook Tower': [
    { type: 'speed', atMs: 50_000, percent: 100, by: 'in-title' },
    { type: 'speed', atMs: 1_600_000, percent: 85, by: 'in-title' },
  ],
  'Glass Canyon': [
    { type: 'summary', by: 'tool', average: 47.3, lowest: 29, highest: 61, onePercent: 31, minutes: 30 },
  ],
};
/** All rates that stand in them, and what a page may say beside: targets, the panel. */
const WRITTEN = [51, 55, 30, 20, 60, 50, 15, 45, 31, 100, 85, 47.3, 29, 61];

const runs = Object.entries(READ).map(([title, lines]): ReviewRun => {
  const entries: EntryLine[] = [...lines, { type: 'end', atMs: 1_800_000, reason: 'planned' }];
  const facts = { refreshHz: 120, target: 60, ...(title === 'Rook Tower' ? { native: 60 } : {}) };
  const { stated, figures } = sideRun({ entries, facts, stated: { device: 'Velm 5', title } });
  return {
    id: title,
    name: title,
    startedAt: null,
    kind: null,
    demand: null,
    stated,
    figures,
    caveats: [],
    confidences: { pace: 'B', warmth: null, drain: null },
    lane: laneOf(figuresOf({ entries, facts }), 60),
  };
});

const review: WrittenReview = {
  name: 'On deck',
  revision: 1,
  voice: null,
  published: '2026-05-20',
  ...evidenceOf(runs),
  video: null,
  sections: (Object.keys(SECTIONS) as SectionKind[]).map((kind) => ({ kind, text: '' })),
  corrections: [],
};

/** Numbers that a text gives as rates: before "fps", and the first of two. */
function ratesIn(text: string): number[] {
  const plain = text.replaceAll('\u00a0', ' ').replace(/<[^>]*>/g, ' ');
  return [...plain.matchAll(/((?:\d+(?:\.\d+)?(?: to | → |–))*\d+(?:\.\d+)?) fps/g)].flatMap(([, said]) =>
    said!.split(/ to | → |–/).map(Number),
  );
}

describe.each<School>(['average-and-lows', 'median-and-hold'])(
  'a review of runs that were read off, by %s',
  (school) => {
    const voice = { school, unit: 'C' } as const;

    it('gives no rate that nobody saw, on its pages, in its pictures and its words', () => {
      const outputs = [
        reviewHtml(review, voice),
        reviewMarkdown(review, voice),
        ...reviewCharts(review, voice).map((chart) => `${chart.alt} ${chartSvg(chart, null)}`),
        ...liveFigures(runs, voice).map(({ says }) => says),
        ...Object.entries(READ).map(([title, entries]) =>
          headline(
            headlineFacts(
              figuresOf({
                entries: [...entries, { type: 'end', atMs: 1_800_000, reason: 'planned' }],
                facts: { refreshHz: 120, target: 60, ...(title === 'Rook Tower' ? { native: 60 } : {}) },
              }),
            ),
            voice,
          ),
        ),
      ];
      const rates = outputs.flatMap(ratesIn);
      expect(rates.length).toBeGreaterThan(20);
      expect(rates.filter((rate) => !WRITTEN.includes(rate))).toEqual([]);
    });

    it('has them in its table as they were written', () => {
      const { heads, cells } = titleCells(voice);
      const column = heads.findIndex((head) => head.endsWith(', fps'));
      const told = Object.fromEntries(titleTable(runs, school).map((row) => [row.title, cells(row)[column]]));
      expect(told).toEqual({
        Aurelune: '51 to 55 → 20 to 30',
        'Glass Canyon': '47.3',
        Hexgarden: '60 → 50',
        'Night Ferry': '31 or more',
        'Pico Harbour': '15 to 45',
        'Rook Tower': '100 → 85\u00a0% speed',
      });
    });
  },
);
