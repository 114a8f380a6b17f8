import type { EntryLine } from '@pace-check/core';

/** A run of the demo that was read off instead of logged. */
export interface DemoResult {
  /** A name of its own, so that it is made once. */
  id: string;
  device: string;
  title: string;
  setup: string | null;
  scene: string | null;
  roomC: number | null;
  /** Conditions, as preflight has them. */
  preflight: Record<string, string | number>;
  entries: EntryLine[];
  /** What a photo of the screen shows, if one was taken. */
  photo: { counter: string; under: 'fps' | '%'; caption: number } | null;
}

const MIN = 60_000;
const rate = (minute: number, fps: number): EntryLine => ({
  type: 'rate',
  atMs: minute * MIN,
  fps,
  by: 'overlay',
});
const skin = (minute: number, spot: string, c: number): EntryLine => ({
  type: 'skin',
  atMs: minute * MIN,
  spot,
  c,
  by: 'infrared',
});

/** Six ways in which people come by their numbers without a log. */
export const DEMO_RESULTS: DemoResult[] = [
  {
    id: '5f0e8a10-0001-4c1a-9b1e-000000000001',
    device: 'Kitto Mini',
    title: 'Hexgarden',
    setup: null,
    scene: 'late save',
    roomC: 18,
    preflight: { brightness: 60, hold: 'in the hands' },
    entries: [
      { type: 'rate', fps: 25, low: 22, high: 28, by: 'eye' },
      { type: 'smooth', word: 'occasional', by: 'eye' },
      {
        type: 'mark',
        atMs: 6 * MIN,
        kind: 'note',
        note: 'late turns take long to think, the map stays smooth',
      },
      { type: 'end', atMs: 20 * MIN, reason: 'stopped' },
    ],
    photo: null,
  },
  {
    id: '5f0e8a10-0002-4c1a-9b1e-000000000002',
    device: 'Oru Fold',
    title: 'Aurelune',
    setup: 'Highest, cap 60',
    scene: null,
    roomC: 18.5,
    preflight: { screen: 'inner', brightness: 80, charging: 'on battery', hold: 'in the hands' },
    entries: [
      rate(1, 58),
      rate(2, 57),
      rate(4, 55),
      rate(8, 51),
      rate(12, 47),
      rate(16, 45),
      rate(21, 43),
      rate(23, 42),
      rate(24.5, 43),
      skin(0.5, 'back by the camera', 22.1),
      skin(8, 'back by the camera', 38.4),
      skin(13, 'back by the camera', 41.2),
      skin(18, 'back by the camera', 42.3),
      skin(24, 'back by the camera', 42.6),
      { type: 'battery', atMs: 0, percent: 100 },
      { type: 'battery', atMs: 25 * MIN, percent: 87 },
      { type: 'mark', atMs: 11.5 * MIN, kind: 'stutter', note: 'on entering the old town' },
      { type: 'end', atMs: 25 * MIN, reason: 'planned' },
    ],
    photo: { counter: '43', under: 'fps', caption: 2 },
  },
  {
    id: '5f0e8a10-0003-4c1a-9b1e-000000000003',
    device: 'Kitto Mini',
    title: 'Copperline Squad',
    setup: 'Fluid, cap 60',
    scene: null,
    roomC: null,
    preflight: {},
    entries: [
      {
        type: 'summary',
        by: 'tool',
        average: 58.2,
        median: 59,
        hold: 0.97,
        lowest: 41,
        highest: 60,
        onePercent: 44,
        minutes: 12,
      },
      { type: 'skin', atMs: 12 * MIN, spot: 'back by the camera', c: 40.7, by: 'infrared', peak: true },
    ],
    photo: { counter: '58.2', under: 'fps', caption: 3 },
  },
  {
    id: '5f0e8a10-0004-4c1a-9b1e-000000000004',
    device: 'Velm 5',
    title: 'Rook Tower',
    setup: 'Lantern, twofold',
    scene: 'bell stairs',
    roomC: 18,
    preflight: { layer: 'Lantern 1.9' },
    entries: [
      { type: 'speed', atMs: 2 * MIN, percent: 100, by: 'in-title' },
      { type: 'speed', atMs: 5 * MIN, low: 95, high: 99, by: 'in-title', scene: 'bell stairs' },
      { type: 'speed', atMs: 9 * MIN, percent: 98, by: 'in-title' },
      { type: 'smooth', word: 'frequent', by: 'eye' },
      { type: 'end', atMs: 16 * MIN, reason: 'planned' },
    ],
    photo: { counter: '98', under: '%', caption: 2 },
  },
  {
    id: '5f0e8a10-0005-4c1a-9b1e-000000000005',
    device: 'Velm 4',
    title: 'Saltmarsh Drift',
    setup: 'Highest, cap 60',
    scene: null,
    roomC: 31,
    preflight: { brightness: 100 },
    entries: [
      { type: 'rate', low: 55, high: 60, by: 'overlay', scene: 'start area' },
      { type: 'rate', low: 44, high: 48, by: 'overlay', scene: 'hard track' },
      { type: 'rate', high: 50, by: 'overlay', scene: 'hard track' },
      { type: 'skin', atMs: 0, spot: 'back middle', c: 44.4, by: 'infrared', peak: true },
      { type: 'smooth', word: 'none', by: 'eye' },
    ],
    photo: null,
  },
  {
    id: '5f0e8a10-0006-4c1a-9b1e-000000000006',
    device: 'Quill Deck',
    title: 'Night Ferry',
    setup: 'Gangway, fast preset, 720p',
    scene: null,
    roomC: 17.5,
    preflight: { performanceMode: 'boost', driver: '24.1', layer: 'Gangway 0.9' },
    entries: [
      rate(1, 41),
      rate(3, 38),
      rate(6, 36),
      { type: 'power', atMs: 2 * MIN, mw: 19_400, of: 'chip' },
      { type: 'power', atMs: 6 * MIN, mw: 21_200, of: 'chip' },
      { type: 'power', atMs: 6 * MIN, mw: 33_000, of: 'wall' },
      { type: 'chip', atMs: 6 * MIN, c: 87.5, part: 'cpu' },
      { type: 'mark', atMs: 7.5 * MIN, kind: 'glitch', note: 'the harbour’s water turns black' },
      { type: 'end', atMs: 8.2 * MIN, reason: 'crash' },
    ],
    photo: { counter: '36', under: 'fps', caption: 4 },
  },
];

/** Which of its seven strokes a digit has, from the top clockwise, the middle one last. */
const STROKES: Record<string, string> = {
  '0': '1111110',
  '1': '0110000',
  '2': '1101101',
  '3': '1111001',
  '4': '0110011',
  '5': '1011011',
  '6': '1011111',
  '7': '1110000',
  '8': '1111111',
  '9': '1111011',
};

function digit(value: string, x: number, y: number, size: number): string {
  const [w, h, t] = [size * 0.56, size, size * 0.1];
  const bars = [
    [x, y, w, t],
    [x + w - t, y, t, h / 2],
    [x + w - t, y + h / 2, t, h / 2],
    [x, y + h - t, w, t],
    [x, y + h / 2, t, h / 2],
    [x, y, t, h / 2],
    [x, y + h / 2 - t / 2, w, t],
  ];
  return [...STROKES[value]!]
    .map((on, i) =>
      on === '1'
        ? `<rect x="${bars[i]![0]}" y="${bars[i]![1]}" width="${bars[i]![2]}" height="${bars[i]![3]}" rx="2"/>`
        : '',
    )
    .join('');
}

/**
 * A photo of a screen with a counter on it, as the project draws one: a device
 * on a bench, hills and water on its screen, the number in strokes of its own.
 *
 * @param caption lines under the number that are too small to read
 * @returns SVG; it needs no fonts
 */
export function counterPhoto({ counter, under, caption }: NonNullable<DemoResult['photo']>): string {
  const size = 96;
  let x = 150;
  const strokes = [...counter].map((sign) => {
    if (sign === '.') {
      x += 6;
      const dot = `<rect x="${x - 10}" y="${150 + size - 12}" width="12" height="12" rx="3"/>`;
      x += 10;
      return dot;
    }
    const drawn = digit(sign, x, 150, size);
    x += size * 0.56 + 18;
    return drawn;
  });
  const unit =
    under === '%'
      ? `<circle cx="${x + 14}" cy="172" r="11" fill="none" stroke-width="7"/><circle cx="${x + 46}" cy="226" r="11" fill="none" stroke-width="7"/><path d="M${x + 50} 158L${x + 8} 240" stroke-width="7"/>`
      : `<path d="M${x + 4} 232V186M${x + 4} 188H${x + 22}M${x + 4} 208H${x + 18}M${x + 34} 244V204H${x + 50}V228H${x + 34}" fill="none" stroke-width="6"/>`;
  const lines = Array.from(
    { length: caption },
    (_, i) => `<rect x="150" y="${276 + i * 20}" width="${220 - i * 34}" height="9" rx="4" fill="#c9d2d6"/>`,
  ).join('');
  return `<svg xmlns="http://www.w3.org/2000/svg" width="1280" height="800" viewBox="0 0 1280 800">
  <defs><linearGradient id="sky" x2="0" y2="1"><stop stop-color="#7d98a3"/><stop offset="1" stop-color="#d9c7ad"/></linearGradient></defs>
  <rect width="1280" height="800" fill="#6b5a49"/><path d="M0 560L1280 470V800H0Z" fill="#5a4b3d"/>
  <g transform="rotate(-4 640 400)">
    <rect x="60" y="70" width="1160" height="620" rx="54" fill="#23282b"/>
    <rect x="96" y="104" width="1088" height="552" rx="18" fill="url(#sky)"/>
    <path d="M96 470L330 330L520 440L760 280L1184 460V656H96Z" fill="#4d6660"/><path d="M96 540Q640 480 1184 548V656H96Z" fill="#38586b"/>
    <rect x="126" y="128" width="${x + 90 - 126}" height="${160 + caption * 20}" rx="12" fill="#1b2226" fill-opacity="0.78"/>
    <g fill="#e9eef0" stroke="#e9eef0" stroke-width="0">${strokes.join('')}<g stroke="#e9eef0" fill="none">${unit}</g></g>${lines}
  </g></svg>`;
}
