import { readShellText, type PresentAnchor } from './shellText';

const NOW = 600_000;
const read = (text: string, anchor: PresentAnchor | null = null): ReturnType<typeof readShellText> =>
  readShellText(text, NOW, anchor);

describe('battery status', () => {
  // the form of the platform's own dump, as remembered
  const dump = `Current Battery Service state:
  AC powered: false
  USB powered: true
  Wireless powered: false
  Max charging current: 500000
  status: 2
  health: 2
  present: true
  level: 43
  scale: 50
  voltage: 3987
  temperature: 312
  technology: cell`;
  it('gives percent, charging and the battery’s own temperature', () => {
    const { entries, aside } = read(dump);
    expect(entries).toEqual([
      { type: 'battery', atMs: NOW, percent: 86, charging: true },
      { type: 'skin', atMs: NOW, spot: 'battery', c: 31.2, by: 'battery sensor' },
    ]);
    expect(aside.map(({ line }) => line)).toEqual([1, 5, 7, 8, 13]);
  });
  it('is not charging on battery', () =>
    expect(read('level: 80\nstatus: 3').entries).toEqual([
      { type: 'battery', atMs: NOW, percent: 80, charging: false },
    ]));
  it('is read as names and values too', () =>
    expect(read('POWER_SUPPLY_STATUS=Discharging\nPOWER_SUPPLY_CAPACITY=77').entries).toEqual([
      { type: 'battery', atMs: NOW, percent: 77, charging: false },
    ]));
});

describe('power and thermal zones', () => {
  it('multiply µA and µV, whichever way the current is counted', () => {
    expect(read('current_now: -1200000\nvoltage_now: 4000000').entries).toEqual([
      { type: 'power', atMs: NOW, mw: 4800 },
    ]);
    expect(read('current_now=1200000\nvoltage_now=4000000').entries).toEqual([
      { type: 'power', atMs: NOW, mw: 4800 },
    ]);
  });
  it('say nothing with one of the two', () => expect(read('current_now: -1200000').entries).toEqual([]));
  it('take thousandths of a degree of the skin, and leave the inside aside', () => {
    const { entries, aside } = read('skin-therm 38400\nquiet_therm: 36250\ncpu-0-0 81000');
    expect(entries).toEqual([
      { type: 'skin', atMs: NOW, spot: 'skin-therm', c: 38.4, by: 'device sensor' },
      { type: 'skin', atMs: NOW, spot: 'quiet_therm', c: 36.25, by: 'device sensor' },
    ]);
    expect(aside).toEqual([{ line: 3, text: 'cpu-0-0 81000' }]);
  });
});

describe('times', () => {
  it('are those of the last “at”, counted back from now', () => {
    const { entries } = read('at 1795686200000\nlevel: 90\nat 1795686260000\nlevel: 89\n');
    expect(entries.map((line) => 'atMs' in line && line.atMs)).toEqual([NOW - 60_000, NOW]);
  });
  it('may be in seconds', () =>
    expect(
      read('at 1795686200\nlevel: 90\nat 1795686260\nlevel: 89').entries.map(
        (line) => 'atMs' in line && line.atMs,
      ),
    ).toEqual([NOW - 60_000, NOW]));
});

describe('presentation timestamps', () => {
  const stamps = (from: number, count: number, stepNs = 16_666_667n, base = 123_456_789_012_345n): bigint[] =>
    Array.from({ length: count }, (_, i) => base + BigInt(from + i) * stepNs);
  const columns = (all: bigint[]): string =>
    all.map((stamp) => `${stamp - 5_000_000n}\t${stamp}\t${stamp - 9_000_000n}`).join('\n');

  it('become frame times, the last of them now', () => {
    const { frames, anchor } = read(stamps(0, 61).join('\n'));
    expect(frames).toEqual([
      { type: 'frames', atMs: expect.closeTo(NOW - 1000, 3), us: expect.arrayContaining([16_667]) },
    ]);
    expect(frames[0]!.us).toHaveLength(60);
    expect(frames[0]!.us.reduce((sum: number, us) => sum + us!, 0)).toBe(1_000_000);
    expect(anchor).toEqual({ presentUs: expect.any(Number), runMs: NOW, lastUs: 123_457_789_012 });
  });
  it('are the second of three columns, after the refresh period; empty and pending rows are passed over', () => {
    const { frames, entries, aside } = read(
      `8333333\n0\t0\t0\n${columns(stamps(0, 10))}\n123\t9223372036854775807\t124\n`,
    );
    expect(entries).toEqual([{ type: 'refresh', atMs: NOW, hz: 120 }]);
    expect(frames[0]!.us).toHaveLength(9);
    expect(aside).toEqual([]);
  });
  it('go on where the text before ended, its rows counted once', () => {
    const first = read(columns(stamps(0, 100)));
    const second = read(columns(stamps(60, 100)), first.anchor);
    expect(second.frames[0]!.us).toHaveLength(60);
    expect(second.frames[0]!.atMs).toBeCloseTo(NOW, 6);
  });
  it('leave a gap where rows between two texts are lost', () => {
    const first = read(columns(stamps(0, 100)));
    const second = read(columns(stamps(300, 100)), first.anchor);
    expect(second.frames[0]!.us).toHaveLength(99);
    expect(second.frames[0]!.atMs).toBeCloseTo(NOW + 201 * 16.666667, 1);
  });
  it('say nothing new when nothing is new', () => {
    const first = read(columns(stamps(0, 100)));
    expect(read(columns(stamps(0, 100)), first.anchor).frames).toEqual([]);
  });
});
