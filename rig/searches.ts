/** Searches and outcomes of the demo: an emulator on three devices, and a translation layer against a list's claims. */

const id = (n: number): string => `6a1f0c20-03${String(n).padStart(2, '0')}-4c1a-9b1e-000000000001`;

/** Pixels at 1× of the emulated system: 640 × 480. */
const LUMO = 640 * 480;
const RESOLUTIONS = ['1×', '2×', '3×', '4×', '5×', '6×', '8×', '10×'].map((name) => ({
  name,
  pixels: LUMO * Number.parseInt(name, 10) ** 2,
}));

interface DemoProbe {
  rung: string;
  percent?: number;
  fps?: number;
  holds?: boolean;
  firstPlay?: boolean;
  note?: string;
}

export interface DemoLadder {
  id: string;
  device: string;
  title: string;
  scene: string;
  setup: string;
  axis: 'internal resolution' | 'power limit';
  rungs: { name: string; pixels?: number }[];
  outputPixels: number | null;
  full: number;
  probes: DemoProbe[];
}

/** One that ended, one in the middle, the notorious title that needs another backend, and a power limit. */
export const DEMO_LADDERS: DemoLadder[] = [
  {
    id: id(1),
    device: 'Velm 5',
    title: 'Pico Harbour',
    scene: 'the quay at dusk',
    setup: 'Lantern 1.9, backend Glim',
    axis: 'internal resolution',
    rungs: RESOLUTIONS,
    outputPixels: 1264 * 2780,
    full: 60,
    probes: [
      { rung: '2×', percent: 71, firstPlay: true, note: 'shaders' },
      { rung: '2×', percent: 100 },
      { rung: '3×', percent: 100 },
      { rung: '3×', percent: 100 },
    ],
  },
  {
    id: id(2),
    device: 'Kitto Mini',
    title: 'Pico Harbour',
    scene: 'the quay at dusk',
    setup: 'Lantern 1.9, backend Glim',
    axis: 'internal resolution',
    rungs: RESOLUTIONS,
    outputPixels: 1080 * 2340,
    full: 60,
    probes: [{ rung: '2×', percent: 93 }],
  },
  {
    id: id(3),
    device: 'Velm 5',
    title: 'Rook Tower',
    scene: 'the stair of mirrors',
    setup: 'Lantern 1.9, backend Glim',
    axis: 'internal resolution',
    rungs: RESOLUTIONS,
    outputPixels: 1264 * 2780,
    full: 60,
    probes: [
      { rung: '1×', fps: 58 },
      { rung: '2×', fps: 49 },
      { rung: '1×', fps: 58 },
    ],
  },
  {
    id: id(4),
    device: 'Quill Deck',
    title: 'Glass Canyon',
    scene: 'the long bridge',
    setup: 'Lantern 1.9, backend Ember, 2×',
    axis: 'power limit',
    rungs: ['25 W', '20 W', '15 W', '12 W', '10 W', '8 W', '6 W'].map((name) => ({ name })),
    outputPixels: null,
    full: 60,
    probes: [
      { rung: '12 W', percent: 100 },
      { rung: '8 W', percent: 88 },
      { rung: '10 W', percent: 100 },
      { rung: '10 W', holds: true },
    ],
  },
];

interface DemoOutcome {
  title: string;
  device: string;
  with: string;
  version: string;
  status: string;
  date: string;
  where?: string;
  glitches?: string[];
  scene?: string;
  firstPlay?: boolean;
  tried?: string;
  evidence?: string;
}

const gangway = (title: string, status: string, more: Partial<DemoOutcome> = {}): DemoOutcome => ({
  title,
  device: 'Velm 5',
  with: 'Gangway',
  version: '3.1',
  status,
  date: '2026-05-03',
  ...more,
});
const lantern = (
  title: string,
  device: string,
  status: string,
  more: Partial<DemoOutcome> = {},
): DemoOutcome => ({
  title,
  device,
  with: 'Lantern',
  version: '1.9',
  status,
  date: '2026-05-04',
  ...more,
});

export const DEMO_OUTCOMES: DemoOutcome[] = [
  gangway('Iron Orchard', 'crashes', {
    where: 'after the mill',
    tried: 'safe preset, driver Petrel 24',
    evidence: 'clip 14',
  }),
  gangway('Night Ferry', 'full speed', { tried: 'fast preset, driver Petrel 24' }),
  gangway('Night Ferry', 'slow', { device: 'Velm 4', tried: 'fast preset, driver Petrel 23' }),
  gangway('Iron Orchard', 'glitches', {
    version: '3.2',
    date: '2026-05-18',
    glitches: ['picture'],
    where: 'leaves are squares',
    tried: 'safe preset, driver Petrel 25',
  }),
  gangway('Tin Lantern Street', 'would not start', { tried: 'both presets' }),
  gangway('The Weir', 'full speed'),
  gangway('Copper Lines', 'blocked', { where: 'refuses outside its own launcher' }),
  gangway('Little Gale', 'starts only without an overlay'),
  lantern('Pico Harbour', 'Velm 5', 'full speed', { firstPlay: false }),
  lantern('Pico Harbour', 'Kitto Mini', 'slow', { tried: 'backend Glim, then Ember' }),
  lantern('Glass Canyon', 'Quill Deck', 'full speed', { tried: 'backend Ember' }),
  lantern('Rook Tower', 'Velm 5', 'slow', { scene: 'the stair of mirrors', where: '58 of 60 at 1×' }),
  lantern('Rook Tower', 'Kitto Mini', 'glitches', {
    glitches: ['sound', 'picture'],
    scene: 'the stair of mirrors',
  }),
];

/** What "the crossing list" says. */
export const DEMO_CLAIMS: { title: string; with: string; level: 'runs well' | 'runs' | 'does not run' }[] = [
  ...['Iron Orchard', 'Night Ferry', 'The Weir', 'Tin Lantern Street', 'Little Gale'].map((title) => ({
    title,
    with: 'Gangway',
    level: 'runs well' as const,
  })),
  { title: 'Copper Lines', with: 'Gangway', level: 'runs' },
  ...['Pico Harbour', 'Glass Canyon'].map((title) => ({
    title,
    with: 'Lantern',
    level: 'runs well' as const,
  })),
  { title: 'Rook Tower', with: 'Lantern', level: 'runs' },
  { title: 'Salt Choir', with: 'Lantern', level: 'runs' },
  { title: 'The Blue Hour', with: 'Gangway', level: 'does not run' },
  { title: 'Harbour Lights', with: 'Gangway', level: 'runs' },
];

export const DEMO_VERSIONS = [
  { with: 'Gangway', version: '3.1', date: '2026-04-20' },
  { with: 'Gangway', version: '3.2', date: '2026-05-15' },
  { with: 'Lantern', version: '1.9', date: '2026-03-30' },
];

export const DEMO_CLAIMED_BY = 'the crossing list, spring edition';
