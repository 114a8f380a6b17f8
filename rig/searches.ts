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
  watts?: number;
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
  /** Number of the ladder over several titles that it belongs to. */
  together?: string;
  probes: DemoProbe[];
}

/** What the titles of the Oru Fold share: one is told, one is in the middle, one is not begun. */
const ON_THE_FOLD = {
  device: 'Oru Fold',
  setup: 'Lantern 1.9, backend Glim, unfolded',
  axis: 'internal resolution',
  rungs: RESOLUTIONS,
  outputPixels: null,
  together: id(20),
} as const;

/** One that ended, one in the middle, the notorious title that needs another backend, a power limit, and one over three titles. */
export const DEMO_LADDERS: DemoLadder[] = [
  {
    ...ON_THE_FOLD,
    id: id(21),
    title: 'Pico Harbour',
    scene: 'the quay at dusk',
    full: 30,
    probes: [
      { rung: '4×', percent: 91 },
      { rung: '2×', percent: 100 },
      { rung: '3×', percent: 100 },
      { rung: '4×', percent: 92 },
    ],
  },
  {
    ...ON_THE_FOLD,
    id: id(22),
    title: 'Glass Canyon',
    scene: 'the long bridge',
    full: 60,
    probes: [{ rung: '3×', percent: 88 }],
  },
  {
    ...ON_THE_FOLD,
    id: id(23),
    title: 'Rook Tower',
    scene: 'the stair of mirrors',
    full: 30,
    probes: [],
  },
  {
    id: id(1),
    device: 'Velm 5',
    title: 'Pico Harbour',
    scene: 'the quay at dusk',
    setup: 'Lantern 1.9, backend Glim',
    axis: 'internal resolution',
    rungs: RESOLUTIONS,
    outputPixels: 1264 * 2780,
    full: 30,
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
    full: 30,
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
    full: 30,
    probes: [
      { rung: '1×', fps: 29 },
      { rung: '2×', fps: 24.5 },
      { rung: '1×', fps: 29 },
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
      { rung: '25 W', percent: 100, watts: 27.9, note: 'with boost, to begin with' },
      { rung: '12 W', percent: 100, watts: 15.6 },
      { rung: '8 W', percent: 88, watts: 11.1 },
      { rung: '10 W', percent: 100, watts: 13.2 },
      { rung: '10 W', holds: true, watts: 13.4 },
      { rung: '15 W', percent: 100, watts: 18.4, note: 'as it is delivered, for the table' },
    ],
  },
];

interface DemoChoiceProbe {
  option: string;
  percent?: number;
  fps?: number;
  glitches?: number;
  peakC?: number;
  firstPlay?: boolean;
}

export interface DemoChoice {
  id: string;
  device: string;
  title: string;
  scene: string;
  setup: string;
  axis: 'backend' | 'CPU preset';
  options: string[];
  full: number | null;
  probes: DemoChoiceProbe[];
}

/** A backend that is clearly the one to take, one that is open after two probes each, and four ways to run a PC title. */
export const DEMO_CHOICES: DemoChoice[] = [
  {
    id: id(5),
    device: 'Quill Deck',
    title: 'Glass Canyon',
    scene: 'the long bridge',
    setup: 'Lantern 1.9, 2×',
    axis: 'backend',
    options: ['Glim', 'Ember'],
    full: 60,
    probes: [
      { option: 'Glim', percent: 54, firstPlay: true },
      { option: 'Glim', percent: 81, glitches: 3 },
      { option: 'Ember', percent: 100, glitches: 0 },
      { option: 'Ember', percent: 99.6, glitches: 0 },
      { option: 'Glim', percent: 83, glitches: 4 },
    ],
  },
  {
    id: id(6),
    device: 'Velm 5',
    title: 'Rook Tower',
    scene: 'the stair of mirrors',
    setup: 'Lantern 1.9, 1×',
    axis: 'backend',
    options: ['Glim', 'Ember'],
    full: 30,
    probes: [
      { option: 'Glim', percent: 96.5, glitches: 0, peakC: 40.1 },
      { option: 'Ember', percent: 99.2, glitches: 0, peakC: 40.6 },
      { option: 'Glim', percent: 96.9, glitches: 0, peakC: 40.5 },
      { option: 'Ember', percent: 99.6, glitches: 0, peakC: 40.4 },
    ],
  },
  {
    id: id(7),
    device: 'Velm 5',
    title: 'Iron Orchard',
    scene: 'the mill',
    setup: 'Gangway 3.1, 1280 × 720',
    axis: 'CPU preset',
    options: ['safe, driver as delivered', 'fast, driver as delivered', 'fast, Petrel 25 patched'],
    full: null,
    probes: [
      { option: 'safe, driver as delivered', fps: 30.5, glitches: 0 },
      { option: 'fast, driver as delivered', fps: 39.8, glitches: 1 },
      { option: 'fast, Petrel 25 patched', fps: 41.2, glitches: 5 },
      { option: 'fast, driver as delivered', fps: 40.4, glitches: 1 },
      { option: 'fast, Petrel 25 patched', fps: 40.7, glitches: 6 },
      { option: 'safe, driver as delivered', fps: 31.1, glitches: 0 },
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
  lantern('Rook Tower', 'Velm 5', 'slow', { scene: 'the stair of mirrors', where: '29 of 30 at 1×' }),
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

/** Scores of an invented tool, from cold; the last one is a slip of the pen. */
export const DEMO_SYNTHETIC = [
  {
    device: 'Velm 5',
    scores: [6210, 6050, 5480, 5130, 4970, 4930],
    parts: [
      { name: 'graphics', score: 3320 },
      { name: 'processor', score: 2890 },
    ],
    coldC: 20.1,
    hotC: 36.9,
    roomC: 18.5,
  },
  { device: 'Velm 4', scores: [5020, 4310, 3390, 2980], coldC: 19.8, hotC: 39.4, roomC: 18.5 },
  { device: 'Oru Fold', scores: [5880, 4700, 4410], coldC: 20.4, hotC: 33.6, roomC: 19 },
  { device: 'Kitto Mini', scores: [55_400], coldC: 21, hotC: null, roomC: 18.5, note: 'typed from a photo' },
].map((doc) => ({ tool: 'Plumb Line', version: '3.1', date: '2026-05-08', ...doc }));
