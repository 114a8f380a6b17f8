import { execFile, spawnSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';

/** Runs the built command as a person would. */
const pace = (...args: string[]): Promise<{ status: number; out: string; err: string }> =>
  new Promise((resolve) => {
    execFile(
      process.execPath,
      [join(__dirname, 'bin', 'pace.mjs'), ...args],
      { maxBuffer: 64 * 1024 * 1024 },
      (error, out, err) => resolve({ status: error ? Number(error.code) : 0, out, err }),
    );
  });

describe('pace simulate', () => {
  it('writes a run to standard output', async () => {
    const { status, out } = await pace('simulate', 'holds', '--minutes', '0.5', '--seed', '2');
    expect(status).toBe(0);
    const lines = out
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line) as { type: string; atMs?: number });
    expect(lines[0]).toMatchObject({ type: 'run', device: 'Velm 5' });
    expect(lines.at(-1)).toMatchObject({ type: 'end', reason: 'planned' });
    expect(lines.at(-1)!.atMs! / 1000).toBeCloseTo(30, 0);
  });

  it('crashes on request', async () => {
    const { out } = await pace('simulate', 'fades', '--crash-at', '5');
    expect(JSON.parse(out.trim().split('\n').at(-1)!)).toMatchObject({ type: 'end', reason: 'crash' });
  });

  it.each([
    [['simulate', 'nope'], /Unknown scenario “nope”.*holds/],
    [['simulate', 'holds', '--seed', 'x'], /whole number/],
    [['simulate'], /missing required argument/],
    [['dance'], /unknown command/],
  ])('%j is wrong usage: status 2, nothing on standard output', async (args, message) => {
    const { status, out, err } = await pace(...args);
    expect({ status, out }).toEqual({ status: 2, out: '' });
    expect(err).toMatch(message);
  });

  it.each([
    [['--live', 'nowhere'], /an address such as/],
    [['--live', 'http://127.0.0.1:9', '--speed', '61'], /from 1 to 60/],
    [['--live', 'http://127.0.0.1:9', '--misbehave', 'dance'], /drop-out/],
    [['--live', 'http://127.0.0.1:9', '--as', 'toaster'], /handset/],
  ])('%j is wrong usage of a live one: status 2', async (args, message) => {
    const { status, out, err } = await pace('simulate', 'holds', ...args);
    expect({ status, out }).toEqual({ status: 2, out: '' });
    expect(err).toMatch(message);
  });
  it('says when nobody answers: status 1', async () =>
    expect(await pace('simulate', 'holds', '--live', 'http://127.0.0.1:9')).toMatchObject({
      status: 1,
      out: '',
      err: expect.stringContaining('does not answer'),
    }));
  it('explains itself', async () =>
    expect(await pace('simulate', '--help')).toMatchObject({
      status: 0,
      out: expect.stringContaining('Examples:'),
    }));
  it('says when a file cannot be written: status 1', async () =>
    expect(await pace('simulate', 'holds', '--minutes', '0.1', '--out', '/nowhere/at/all')).toMatchObject({
      status: 1,
      err: expect.stringContaining('/nowhere/at/all'),
    }));
});

/** A file for the command to read. */
function file(name: string, content: string | Uint8Array): string {
  const path = join(mkdtempSync(join(tmpdir(), 'pace-cli-')), name);
  writeFileSync(path, content);
  return path;
}

describe('pace analyse', () => {
  const log = `frame_time_ms\n${'25\n'.repeat(4800)}`;
  // eslint-disable-next-line @typescript-eslint/no-explicit-any -- examined field by field
  const json = async (...args: string[]): Promise<any> =>
    JSON.parse((await pace('analyse', ...args, '--json')).out);

  it('prints one JSON object with every figure', async () => {
    const figures = await json(file('log.csv', log), '--target', '40', '--refresh', '60', '--need', 'story');
    expect(Object.keys(figures)).toEqual([
      'frames',
      'pace',
      'lows',
      'evenness',
      'cadence',
      'cap',
      'capShare',
      'capAdvice',
      'splits',
      'stamina',
      'feel',
      'playable',
      'emulation',
      'warmth',
      'drain',
      'caveats',
      'confidence',
      'confidences',
    ]);
    expect(figures).toMatchObject({
      frames: { count: 4800, seconds: 120, dropped: 0 },
      pace: {
        source: 'frames',
        average: 40,
        median: 40,
        hold: 1,
        slow: 0,
        perSecond: Array<number>(120).fill(40),
      },
      lows: { onePercent: { quantile: 40, worstMean: 40, timeShare: 40 }, tenthPercent: { quantile: null } },
      evenness: { sdMs: 0, successiveMs: 0, late: 0, stutters: 0, stalls: 0, freezes: 0, lostMs: 0 },
      cadence: { kind: 'variable', onBeat: 0 },
      cap: 40,
      splits: [
        { fromS: 0, toS: 60, average: 40, onePercentLow: 40, hold: 1 },
        { fromS: 60, toS: 120, average: 40, onePercentLow: 40, hold: 1 },
      ],
      stamina: {
        opening: 40,
        closing: null,
        retention: null,
        onTarget: 1,
        onsetS: null,
        sawtooth: false,
        segments: [{ fromS: 0, toS: 120, mean: 40 }],
        word: null,
      },
      playable: 'plays well',
      emulation: null,
      warmth: {},
      drain: null,
      caveats: ['short-run', 'capped'],
      confidence: 'B',
    });
  });

  it('takes the first column that it knows, in its own order', async () => {
    const rows = Array.from({ length: 300 }, (_, i) => `${i * 20_000_000},20000,x`).join('\n');
    expect((await json(file('a.csv', `present_ns,frametime_us,note\n${rows}\n`))).frames.count).toBe(300);
    expect((await json(file('b.csv', `present_ns,other,note\n${rows}\n`))).frames.count).toBe(299);
  });

  it('lets flags go before the file, and adds spans to its own', async () => {
    const run = file(
      'r.pace.ndjson',
      [
        { type: 'run', version: 1, target: 30, room: 20 },
        { type: 'frames', atMs: 0, us: Array<number>(1000).fill(20_000) },
        { type: 'span', fromMs: 0, toMs: 2000, kind: 'menu' },
        { type: 'skin', atMs: 0, spot: 'back', c: 30, by: 'infrared' },
      ]
        .map((line) => JSON.stringify(line))
        .join('\n'),
    );
    expect(await json(run)).toMatchObject({
      frames: { count: 900 },
      stamina: { onTarget: 1 },
      warmth: { back: { by: 'infrared', peakC: 30, riseC: 10, fit: null } },
    });
    expect(await json(run, '--target', '60', '--room', '25', '--exclude', '10-12,19-20')).toMatchObject({
      frames: { count: 750, seconds: 20 },
      stamina: { onTarget: 0 },
      warmth: { back: { riseC: 5 } },
    });
  });

  it('reads standard input and gzip, and speaks text and CSV', async () => {
    const zipped = file('log.csv.gz', gzipSync(log));
    expect((await json(zipped)).frames.count).toBe(4800);
    const piped = spawnSync(
      process.execPath,
      [join(__dirname, 'bin', 'pace.mjs'), 'analyse', '-', '--format', 'csv'],
      { input: log, encoding: 'utf8' },
    );
    expect(piped.stdout.split('\n')[1]).toBe('0,60,40,40,1,,0,,');
    expect((await pace('analyse', zipped)).out).toMatch(/^Averages 40 fps/);
  });

  it.each<[string, string | Uint8Array, RegExp]>([
    ['an image', Uint8Array.from([0x89, 0x50, 0x4e, 0x47]), /PNG image/],
    ['columns of other names', 'took\n16.7\n16.6\n', /No known column among “took”/],
    ['too many bad rows', 'frame_time_ms\nx\n16.7\n', /line 2: column 1 contains “x”/],
  ])('refuses %s: status 1, the reason on standard error alone', async (_, content, message) => {
    const { status, out, err } = await pace('analyse', file('bad.csv', content), '--json');
    expect({ status, out }).toEqual({ status: 1, out: '' });
    expect(err).toMatch(message);
  });
  it('has no figure of frames where there are none', async () => {
    const read =
      '{"type":"run","version":1,"id":"2c1f0a52-6a55-4c3c-8f1e-0d5a4f7f9a11","device":"Velm 5","title":"Aurelune"}\n' +
      '{"type":"rate","atMs":60000,"fps":58,"by":"overlay"}\n';
    const figures = await json(file('read.pace.ndjson', read));
    expect(figures.pace).toEqual({
      source: 'read',
      average: 58,
      // one glance is a tenth wider
      interval: [expect.closeTo(51.7, 9), expect.closeTo(64.3, 9)],
      seen: [57.5, 58.5],
      median: null,
      hold: null,
      slow: null,
      swings: false,
      perSecond: null,
    });
    expect(figures).toMatchObject({ splits: [], stamina: { segments: [], sawtooth: false, closing: null } });
  });
  it('reads what a device’s shell printed', async () => {
    // ten seconds at 50 frames per second, in two dumps that overlap
    const shown = Array.from({ length: 501 }, (_, i) => 84_215_000_000_000n + BigInt(i) * 20_000_000n);
    const dump = (at: number, from: number, to: number): string =>
      `at ${at}\nlevel: 87\nstatus: 3\nskin-therm 38400\n16666666\n${shown
        .slice(from, to)
        .map((ns) => `${ns - 9_000_000n}\t${ns}\t${ns - 2_000_000n}`)
        .join('\n')}`;
    const figures = await json(
      file('shell.txt', `${dump(1_795_686_230, 0, 251)}\n${dump(1_795_686_235, 200, 501)}\n`),
    );
    expect(figures.frames).toMatchObject({ count: 500 });
    expect(figures.pace.average).toBeCloseTo(50, 6);
    expect(figures.warmth).toMatchObject({ 'skin-therm': { by: 'device sensor', peakC: 38.4 } });
    expect(await pace('analyse', file('none.txt', 'at 1795686230\nat 1795686231\n'))).toMatchObject({
      out: '',
      err: expect.stringContaining('No frames or readings found in the shell output.'),
    });
  });
  it('cannot read what is not there: status 1', async () =>
    expect(await pace('analyse', '/nowhere.csv')).toMatchObject({ status: 1, out: '' }));
  it.each([
    ['--target', '-3'],
    ['--need', 'speed'],
    ['--exclude', '10'],
    ['--exclude', '9-3'],
    ['--format', 'xml'],
    ['--room', 'warm'],
    ['--sideways', '1'],
  ])('%s %s is wrong usage: status 2', async (...flags) => {
    expect(await pace('analyse', file('log.csv', log), ...flags)).toMatchObject({ status: 2, out: '' });
  });
});

describe('pace fit', () => {
  // NIST StRD, Misra1a; from memory
  const MISRA1A =
    't,y\n77.6,10.07\n114.9,14.73\n141.1,17.94\n190.8,23.93\n239.9,29.61\n289.0,35.18\n332.8,40.02\n378.4,44.82\n434.8,50.76\n477.3,55.05\n536.8,61.01\n593.1,66.40\n689.1,75.47\n760.0,81.78\n';
  it('gives NIST’s certified values', async () => {
    const fit = JSON.parse((await pace('fit', file('m.csv', MISRA1A), '--start', '0', '--json')).out);
    expect(fit.final / 238.94212918).toBeCloseTo(1, 8);
    expect(1 / fit.tau / 5.5015643181e-4).toBeCloseTo(1, 8);
    expect(fit.rss / 0.12455138894).toBeCloseTo(1, 8);
    expect(fit).toMatchObject({
      start: 0,
      se: { start: null, final: expect.any(Number), tau: expect.any(Number) },
    });
  });
  it('exits 1 where there is no fit, or no table', async () => {
    expect(await pace('fit', file('s.csv', 't,y\n0,1\n1,2\n2,3\n3,4\n'), '--json')).toMatchObject({
      status: 1,
      out: '',
      err: expect.stringContaining('No fit possible'),
    });
    expect(await pace('fit', file('s.csv', 'a,b\n0,1\n'))).toMatchObject({
      status: 1,
      out: '',
      err: expect.stringContaining('columns named t and y'),
    });
    expect(await pace('fit', file('s.csv', 't,y\n0,1\n1,x\n'))).toMatchObject({
      status: 1,
      err: expect.stringContaining('Line 3'),
    });
  });
  it('exits 2 for a bad flag', async () =>
    expect(await pace('fit', file('m.csv', MISRA1A), '--start', 'cold')).toMatchObject({
      status: 2,
      out: '',
    }));
});

describe('pace compare', () => {
  const run = (name: string, fps: number, facts: object = {}): string =>
    file(
      name,
      [
        { type: 'run', version: 1, device: 'Velm 5', title: 'Aurelune', target: 60, ...facts },
        { type: 'frames', atMs: 0, us: Array<number>(fps * 30).fill(Math.round(1e6 / fps)) },
        { type: 'end', atMs: 30_000, reason: 'planned' },
      ]
        .map((line) => JSON.stringify(line))
        .join('\n'),
    );

  it('prints every measure, null where a side lacks it, and what was not the same', async () => {
    const [first, second] = [run('a.pace.ndjson', 40, { room: 18 }), run('b.pace.ndjson', 50)];
    const { status, out } = await pace('compare', '--first', first, '--second', second, '--json');
    expect(status).toBe(0);
    const { measures, mismatches } = JSON.parse(out);
    expect(Object.keys(measures)).toEqual([
      'average',
      'median',
      'closing',
      'onePercentLow',
      'watts',
      'hoursFromFull',
      'peakRise',
      'peak',
      'breaks',
    ]);
    expect(measures.average).toMatchObject({ verdict: 'second better', small: false, runsPerSide: null });
    // t(0.975, 4) = 2.776 from any table
    expect(measures.average.interval[0]).toBeCloseTo(1.25 * Math.exp(-2.776445 * 0.02 * Math.SQRT2), 6);
    expect([measures.closing, measures.breaks, measures.watts]).toEqual([null, null, null]);
    expect(mismatches).toEqual(['room unknown']);
  });

  it('takes several runs a side, an archive, and a margin', async () => {
    const archive = [41, 42].map((fps) => run(`c${fps}.pace.ndjson`, fps, { device: 'Oru Fold' }));
    const args = [
      '--first',
      run('a.pace.ndjson', 40),
      run('a2.pace.ndjson', 41),
      '--second',
      run('b.pace.ndjson', 40),
    ];
    const plain = JSON.parse((await pace('compare', ...args, '--json')).out).measures.average;
    const more = JSON.parse(
      (await pace('compare', ...args, '--archive', ...archive, '--margin', '0.2', '--json')).out,
    ).measures.average;
    expect(plain.verdict).toBe('no clear difference');
    expect(more.verdict).toBe('the same in practice');
    expect(more.interval[1] - more.interval[0]).toBeLessThan(plain.interval[1] - plain.interval[0]);
  });

  it('refuses other work, and compares it when asked', async () => {
    const args = ['--first', run('a.pace.ndjson', 40), '--second', run('b.pace.ndjson', 50, { target: 30 })];
    expect(await pace('compare', ...args, '--json')).toMatchObject({
      status: 1,
      out: '',
      err: expect.stringContaining('target 60'),
    });
    const { out } = await pace('compare', ...args, '--anyway', '--json');
    expect(JSON.parse(out).mismatches).toEqual(['target']);
    expect((await pace('compare', ...args, '--target', '60')).out).toMatch(/^The second side is faster/);
  });

  it.each([
    [['--margin', '0'], 2],
    [['--margin', 'x'], 2],
    [['--refresh', '-1'], 2],
    [['--archive', '/nowhere.ndjson'], 1],
  ])('%j: status %i', async (flags, status) =>
    expect(
      await pace(
        'compare',
        '--first',
        run('a.pace.ndjson', 40),
        '--second',
        run('b.pace.ndjson', 50),
        ...flags,
      ),
    ).toMatchObject({ status, out: '' }),
  );
  it('takes both sides: status 2', async () =>
    expect(await pace('compare', '--first', run('a.pace.ndjson', 40))).toMatchObject({ status: 2, out: '' }));
});

describe('pace rate', () => {
  const parts = { pace: 80, evenness: null, stamina: 60, warmth: 40, drain: 20 };
  const rated = async (content: unknown) =>
    pace('rate', file('case.json', JSON.stringify(content)), '--json');

  it('prints overall, low, high, partial and leads', async () => {
    const { out } = await rated({
      devices: [
        { name: 'a', parts, sd: { pace: 3 } },
        { name: 'b', parts: { ...parts, evenness: 90 } },
      ],
      weights: null,
    });
    const { devices } = JSON.parse(out);
    expect(devices[0]).toMatchObject({ name: 'a', overall: 57.5, low: 46, high: 66, partial: true });
    expect(devices[1]).toMatchObject({ partial: false, overall: 64, low: 64, high: 64 });
    expect(devices[0].leads + devices[1].leads).toBeCloseTo(1, 9);
  });

  it('a part without a weight is left out', async () => {
    const { out } = await rated({ devices: [{ name: 'a', parts }], weights: { pace: 1, stamina: 1 } });
    expect(JSON.parse(out).devices).toEqual([
      { name: 'a', overall: 70, low: 70, high: 70, partial: false, leads: 1 },
    ]);
  });

  it.each<[unknown, RegExp]>([
    [{ devices: [] }, /at least one device/],
    [{ devices: [{ name: 'a', parts: { pace: 101 } }] }, /devices\.0\.parts\.pace.*100/],
    [{ devices: [{ name: 'a', parts }], weights: { pace: 0 } }, /one weight/],
    [{ devices: [{ name: 'a', parts }], weights: { pace: -1 } }, /at least 0/],
    [[], /./],
  ])('refuses %j: status 1', async (content, message) => {
    const { status, out, err } = await rated(content);
    expect({ status, out }).toEqual({ status: 1, out: '' });
    expect(err).toMatch(message);
  });
  it('refuses what is no JSON: status 1', async () =>
    expect(await pace('rate', file('case.json', '{'))).toMatchObject({ status: 1, out: '' }));
});

describe('pace ladder', () => {
  const ladder = async (content: unknown) =>
    pace('ladder', file('ladder.json', JSON.stringify(content)), '--json');
  it('prints posterior, best, sure, stop and next', async () => {
    const { out } = await ladder({
      rungs: ['1x', '2x', '3x'],
      prior: null,
      probes: [
        { rung: '2x', speed: 1, holds: true },
        { rung: '3x', speed: 0.7 },
      ],
    });
    const found = JSON.parse(out);
    // 0.98² against 0.02 · 0.98 for each neighbour: 96 %
    expect(found).toMatchObject({ best: '2x', stop: true, next: null });
    expect(found.posterior).toHaveLength(4);
    expect(found.sure).toBe(found.posterior[2]);
    expect(JSON.parse((await ladder({ rungs: ['1x', '2x', '3x'], probes: [] })).out)).toMatchObject({
      stop: false,
      next: '2x',
      best: null,
    });
  });
  it.each<[object, RegExp]>([
    [{ rungs: ['1x', '1x'] }, /“1x” is listed twice/],
    [{ rungs: ['1x'], probes: [{ rung: '2x', speed: 1 }] }, /unknown setting “2x”/],
    [{ rungs: ['1x'], probes: [{ rung: '1x', speed: -1 }] }, /at least 0/],
    [{ rungs: ['1x'], prior: [1] }, /1 settings and “none” need 2/],
    [{ rungs: ['1x'], prior: [1, -1] }, /at least 0/],
    [{ rungs: ['1x'], prior: [0, 0] }, /above 0/],
    [{ rungs: [] }, /enter at least one setting/],
  ])('refuses %j: status 1', async (content, message) => {
    const { status, out, err } = await ladder(content);
    expect({ status, out }).toEqual({ status: 1, out: '' });
    expect(err).toMatch(message);
  });
});

describe('pace session', () => {
  it('prints titles, drain and warmth', async () => {
    const lines = [
      { type: 'run', version: 1, title: 'Saltmarsh Drift' },
      { type: 'frames', atMs: 0, us: Array<number>(600).fill(20_000) },
      { type: 'title', atMs: 6000, title: 'Aurelune', setup: 'Highest' },
      { type: 'skin', atMs: 1000, spot: 'back', c: 30, by: 'infrared' },
      { type: 'end', atMs: 12_000, reason: 'planned' },
    ];
    const path = file('s.pace.ndjson', lines.map((line) => JSON.stringify(line)).join('\n'));
    expect(JSON.parse((await pace('session', path, '--json')).out)).toEqual({
      titles: [
        { title: 'Saltmarsh Drift', fromS: 0, toS: 6, average: 50 },
        { title: 'Aurelune', fromS: 6, toS: 12, average: 50 },
      ],
      drain: null,
      warmth: { back: null },
      asRead: [],
    });
    expect((await pace('session', path)).out).toMatch(/Aurelune, Highest: 50\.0 fps/);
    expect(await pace('session', '/nowhere')).toMatchObject({ status: 1, out: '' });
  });
});
