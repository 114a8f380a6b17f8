import { HANDSETS, LOADS, SCENARIOS, type Scenario } from './scenario';

/** Runs of the demo that stand beside the named ones: repeats, and the same titles on other devices. */
export const DEMO_BESIDE: { run: string; scenario: Scenario; seed: number }[] = [
  {
    run: 'Velm 4: Saltmarsh Drift',
    seed: 11,
    scenario: {
      ...SCENARIOS.holds,
      name: 'holds-velm-4',
      handset: HANDSETS.velm4,
      // a last year's chip that has little to spare: it misses the cap now and then
      load: { ...LOADS.saltmarsh, workMs: 7.9, sceneSpread: 0.14 },
      startSkinC: 19.6,
      stuttersPerMinute: 0.4,
      startedAt: '2026-05-02T09:10:00+02:00',
    },
  },
  {
    run: 'Velm 5: Aurelune, once more',
    seed: 12,
    scenario: { ...SCENARIOS.fades, name: 'fades-again', startedAt: '2026-05-02T10:20:00+02:00' },
  },
  {
    run: 'Velm 4: Aurelune, once more',
    seed: 13,
    scenario: { ...SCENARIOS.buckles, name: 'buckles-again', startedAt: '2026-05-02T11:30:00+02:00' },
  },
  {
    run: 'Velm 5: Copperline Squad in the shed',
    seed: 14,
    scenario: {
      ...SCENARIOS['on-deck'],
      name: 'fluid-in-the-shed',
      handset: HANDSETS.velm5,
      seconds: 1800,
      roomC: 18,
      startSkinC: 19.4,
      skinMinutes: SCENARIOS.holds.skinMinutes,
      startedAt: '2026-05-02T13:00:00+02:00',
    },
  },
  {
    run: 'Oru Fold: Aurelune',
    seed: 15,
    scenario: {
      ...SCENARIOS.fades,
      name: 'fades-oru-fold',
      handset: HANDSETS.oruFold,
      startSkinC: 20.2,
      startedAt: '2026-05-02T14:40:00+02:00',
    },
  },
  {
    run: 'Oru Fold: Saltmarsh Drift',
    seed: 16,
    scenario: {
      ...SCENARIOS.holds,
      name: 'holds-oru-fold',
      handset: HANDSETS.oruFold,
      load: LOADS.saltmarsh,
      startSkinC: 20,
      startedAt: '2026-05-02T15:50:00+02:00',
    },
  },
];

/** A comparison of the demo; its runs by the names of their scenarios. */
export interface DemoComparison {
  id: string;
  name: string | null;
  kind: 'pair' | 'before-after' | 'field' | 'matrix';
  sides: { name: string | null; runs: string[] }[];
}

const unnamed = (...runs: string[]) => ({ name: null, runs });

/** Comparisons that are worth reading: an answer, a cap, a room, and several titles on several devices. */
export const DEMO_COMPARISONS: DemoComparison[] = [
  {
    id: '6a1f0c20-0001-4c1a-9b1e-000000000001',
    name: 'The new one against last year’s',
    kind: 'pair',
    sides: [unnamed('fades', 'fades-again'), unnamed('buckles', 'buckles-again')],
  },
  {
    id: '6a1f0c20-0002-4c1a-9b1e-000000000002',
    name: 'A win of one frame?',
    kind: 'pair',
    sides: [unnamed('holds'), unnamed('holds-velm-4')],
  },
  {
    id: '6a1f0c20-0003-4c1a-9b1e-000000000003',
    name: 'On deck, in the sun',
    kind: 'before-after',
    sides: [
      { name: 'Velm 5, in the shed', runs: ['fluid-in-the-shed'] },
      { name: 'Velm 5, on deck', runs: ['on-deck'] },
    ],
  },
  {
    id: '6a1f0c20-0004-4c1a-9b1e-000000000004',
    name: 'Three for the crossing',
    kind: 'matrix',
    sides: [
      unnamed('fades', 'fades-again', 'holds', 'on-deck'),
      unnamed('buckles', 'buckles-again', 'holds-velm-4'),
      unnamed('fades-oru-fold', 'holds-oru-fold', 'crashes'),
    ],
  },
];

/** What the demo knows from an earlier article alone. */
export const DEMO_WEAK = {
  id: '6a1f0c20-0101-4c1a-9b1e-000000000001',
  device: 'Kitto Mini',
  title: 'Aurelune',
  setup: 'Highest, cap 60',
  measure: 'average',
  value: 33,
  low: 30,
  high: 36,
  source: 'earlier article',
  who: 'The Slow Lane, small phones on the night boat',
  dated: '2025-11-08',
} as const;

/** The review of the demo, and what was corrected after it was published. */
export const DEMO_REVIEW: {
  id: string;
  name: string;
  devices: string[];
  comparisons: string[];
  until: string;
  words: Partial<Record<string, string>>;
  handling: { topic: 'cramp' | 'controller fit' | 'sound'; says: string; evidence: string }[];
  /** Its clips, each of a run by name, and the cut list. */
  video: { clips: { name: string; run: string; lengthS: number; clipS: number }[]; cuts: string };
  correction: { run: string; line: { type: 'span'; kind: string; fromMs: number; toMs: number } };
} = {
  id: '6a1f0c20-0201-4c1a-9b1e-000000000001',
  name: 'Small against large on the night boat',
  devices: ['Velm 5', 'Kitto Mini'],
  comparisons: ['6a1f0c20-0001-4c1a-9b1e-000000000001'],
  until: 'Aurelune is updated for the new chip',
  words: {
    verdict:
      'From one shore to the other the large one plays everything that we tried; the small one is warm in the hand before the lighthouse.',
    questions: 'Which crossing is yours, and how long is it?',
    next: 'The fold, once its firmware is final.',
  },
  handling: [
    {
      topic: 'cramp',
      says: 'The small one tires the left thumb after half an hour',
      evidence: 'both of us, on the crossing',
    },
    {
      topic: 'controller fit',
      says: 'Both fit the Telescope controller',
      evidence: 'clipped on and played for ten minutes',
    },
  ],
  video: {
    clips: [
      { name: 'large', run: 'Aurelune on Velm 5', lengthS: 1830, clipS: 12.4 },
      { name: 'small', run: 'Aurelune on Kitto Mini', lengthS: 1500, clipS: 7.2 },
    ],
    cuts: 'large 0:12.4 - 1:12.4\nsmall 0:07.2 - 1:07.2\nlarge 15:00 - 25:00 x4\nsmall 9:00 - 15:00 x4',
  },
  correction: {
    run: 'Aurelune on Kitto Mini',
    // a menu that had been overlooked
    line: { type: 'span', kind: 'menu', fromMs: 600_000, toMs: 690_000 },
  },
};
