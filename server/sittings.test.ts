import { randomUUID } from 'node:crypto';
import type { RunDetail, RunSummary } from '@pace-check/contract';
import type { EntryLine, RunHeader } from '@pace-check/core';
import { purgeDeleted } from './sql/runs';
import { importPath, startHarness, type Harness } from './testing/harness';

let harness: Harness;
beforeAll(async () => {
  harness = await startHarness();
});
afterAll(() => harness.close());

const send = (method: string, path: string, body: unknown): ReturnType<Harness['request']> =>
  harness.request(method, path, JSON.stringify(body), { 'content-type': 'application/json' });
const get = async (id: string): Promise<RunDetail> => (await harness.request('GET', `/runs/${id}`)).body;
const list = async (): Promise<RunSummary[]> => (await harness.request('GET', '/runs?limit=100')).body;

const MIN = 60_000;

/** A run file of some minutes at so many frames a second. */
async function imported(
  header: Partial<RunHeader>,
  paces: [minutes: number, fps: number][],
  lines: EntryLine[] = [],
): Promise<RunDetail> {
  const us = paces.flatMap(([minutes, fps]) =>
    new Array<number>(minutes * 60 * fps).fill(Math.round(1e6 / fps)),
  );
  const file = [
    { type: 'run', version: 1, device: 'Oru Fold', title: 'Aurelune', target: 60, ...header },
    { type: 'frames', atMs: 0, us },
    ...lines,
  ];
  const { status, body } = await harness.request(
    'POST',
    importPath({
      fileName: `${randomUUID()}.pace.ndjson`,
      name: null,
      facts: null,
      reading: null,
      again: true,
    }),
    file.map((line) => JSON.stringify(line)).join('\n'),
  );
  expect([status, body.message]).toEqual([201, undefined]);
  return body;
}
const title = (minute: number, name: string): EntryLine => ({
  type: 'title',
  atMs: minute * MIN,
  title: name,
});
const skin = (minute: number, c: number): EntryLine => ({
  type: 'skin',
  atMs: minute * MIN,
  spot: 'back',
  c,
  by: 'infrared',
});

describe('the titles of a sitting', () => {
  it('are runs of their own, with the figures of their stretch, and follow what is changed', async () => {
    const sitting = await imported(
      { setup: 'Highest', startedAt: '2026-05-09T10:00:00.000Z' },
      [
        [16, 60],
        [16, 30],
      ],
      [title(16, 'Hexgarden'), skin(0, 24), skin(16, 39), skin(30, 38)],
    );
    // the first answer says it already
    expect([sitting.isSitting, sitting.parts.length]).toEqual([true, 2]);
    const parts = (await get(sitting.id)).parts;
    expect(parts.map((part) => part.name)).toEqual(['Aurelune on Oru Fold', 'Hexgarden on Oru Fold']);
    const [first, second] = await Promise.all(parts.map((part) => get(part.id)));
    expect(first!.figures.pace.average).toBeCloseTo(60, 1);
    expect(second!.figures.pace.average).toBeCloseTo(30, 1);
    expect(second).toMatchObject({
      title: 'Hexgarden',
      startedAt: '2026-05-09T10:16:00.000Z',
      part: { sittingId: sitting.id, fromMs: 16 * MIN },
    });
    expect(second!.figures.stamina.closing).toBeCloseTo(30, 1);
    // it went on warm, and nobody blames it
    expect(second!.caveats.map(({ caveat }) => caveat)).not.toContain('warm-start');
    const { isSitting } = (await list()).find((run) => run.id === sitting.id)!;
    expect(isSitting).toBe(true);

    // one that becomes a sitting, and one that is none any more, say so at once
    const alone = await imported({}, [[2, 60]]);
    const noted = await send('POST', `/runs/${alone.id}/entries`, { entries: [title(1, 'Hexgarden')] });
    expect([alone.isSitting, noted.body.isSitting]).toEqual([false, true]);
    const back = await harness.request('DELETE', `/runs/${alone.id}/entries/${noted.body.entries[0].id}`);
    expect([back.body.isSitting, back.body.parts]).toEqual([false, []]);

    // a third title, noted afterwards: the second ends there
    await send('POST', `/runs/${sitting.id}/entries`, { entries: [title(24, 'Skiff 120')] });
    const changed = await get(sitting.id);
    expect(changed.parts.map((part) => part.id)).toEqual([
      ...parts.map((part) => part.id),
      expect.any(String),
    ]);
    expect((await get(parts[1]!.id)).figures.frames.seconds).toBeCloseTo(480, 0);
    // taken back, it goes, and is the same one when it comes again
    const third = changed.parts[2]!.id;
    const line = changed.entries.find((entry) => entry.line.type === 'title')!;
    await harness.request('DELETE', `/runs/${sitting.id}/entries/${line.id}`);
    expect((await get(sitting.id)).parts).toHaveLength(2);
    expect((await harness.request('GET', `/runs/${third}`)).status).toBe(404);
    await send('POST', `/runs/${sitting.id}/entries`, { entries: [title(24, 'Skiff 120')] });
    expect((await get(sitting.id)).parts[2]!.id).toBe(third);

    // the sitting goes with them, and comes back with them
    await harness.request('DELETE', `/runs/${sitting.id}`);
    expect((await list()).map((run) => run.id)).not.toContain(parts[0]!.id);
    await harness.request('POST', `/runs/${sitting.id}/restore`);
    expect((await list()).map((run) => run.id)).toContain(parts[0]!.id);
  });

  it('stay the same runs when a name is corrected, and stretches that are none stay away', async () => {
    const sitting = await imported({}, [[6, 60]], [title(2, 'Hexgardn'), title(4, 'Aurelune')]);
    const before = (await get(sitting.id)).parts;
    const { entries } = await get(sitting.id);
    expect(entries).toEqual([]); // titles of a file are the file's
    const typed = await imported({}, [[6, 60]]);
    await send('POST', `/runs/${typed.id}/entries`, {
      entries: [title(2, 'Hexgardn'), title(4, 'Aurelune')],
    });
    const parts = (await get(typed.id)).parts;
    expect(parts.map(({ name }) => name)).toEqual(before.map(({ name }) => name));
    const wrong = (await get(typed.id)).entries.find(
      ({ line }) => line.type === 'title' && line.title === 'Hexgardn',
    )!;
    await send('PUT', `/runs/${typed.id}/entries/${wrong.id}`, { line: title(2, 'Hexgarden') });
    const after = (await get(typed.id)).parts;
    expect(after).toEqual([parts[0], { id: parts[1]!.id, name: 'Hexgarden on Oru Fold' }, parts[2]]);
    // deleted and brought back, it has the stretches that it had
    const last = (await get(typed.id)).entries.findLast(({ line }) => line.type === 'title')!;
    await harness.request('DELETE', `/runs/${typed.id}/entries/${last.id}`);
    const two = (await get(typed.id)).parts;
    await harness.request('DELETE', `/runs/${typed.id}`);
    expect((await harness.request('POST', `/runs/${typed.id}/restore`)).status).toBe(204);
    expect((await get(typed.id)).parts).toEqual(two);
    expect(two).toHaveLength(2);
  });

  it('state the cooler as it was in their stretch', async () => {
    const sitting = await imported(
      { preflight: { cooler: 'without' } },
      [[6, 60]],
      [
        { ...title(2, 'Hexgarden'), firstPlay: true } as EntryLine,
        title(4, 'Skiff 120'),
        { type: 'span', fromMs: 3 * MIN, toMs: 6 * MIN, kind: 'cooler' },
      ],
    );
    const parts = await Promise.all((await get(sitting.id)).parts.map((part) => get(part.id)));
    expect(parts.map((part) => part.preflight.cooler)).toEqual(['without', undefined, 'with']);
    // a first play is that of its title alone
    expect(parts.map((part) => part.conditions.includes('first-play'))).toEqual([false, true, false]);
  });

  it('have a name, whatever a file calls them', async () => {
    const sitting = await imported(
      {},
      [[3, 60]],
      [title(1, '   '), { ...title(2, ' Hexgarden '), setup: ' ' } as EntryLine],
    );
    expect((await get(sitting.id)).parts.map((part) => part.name)).toEqual([
      'Aurelune on Oru Fold',
      'unknown title on Oru Fold',
      'Hexgarden on Oru Fold',
    ]);
  });

  it('are changed in the sitting, and say where that is', async () => {
    const sitting = await imported({}, [[2, 60]], [title(1, 'Hexgarden')]);
    const [part] = (await get(sitting.id)).parts;
    for (const answer of [
      await send('PATCH', `/runs/${part!.id}`, { name: 'Other' }),
      await send('POST', `/runs/${part!.id}/entries`, { entries: [skin(0, 30)] }),
      await harness.request('DELETE', `/runs/${part!.id}`),
    ])
      expect([answer.status, answer.body]).toEqual([
        409,
        expect.objectContaining({ code: 'part-of-sitting', runId: sitting.id }),
      ]);
  });

  it('are saved as files that give the same figures', async () => {
    const sitting = await imported({}, [[4, 60]], [title(1, 'Hexgarden'), skin(3, 35)]);
    const part = await get((await get(sitting.id)).parts[1]!.id);
    const file = (await harness.request('GET', `/runs/${part.id}/file`)).body as string;
    const { body } = await harness.request(
      'POST',
      importPath({ fileName: 'part.pace.ndjson', name: null, facts: null, reading: null, again: true }),
      file,
    );
    expect(body.figures.pace).toEqual(part.figures.pace);
    expect(body.figures.frames.count).toBe(part.figures.frames.count);
    expect(body.part).toBeNull();
  });

  it('stand among runs of their title, where the sitting does not', async () => {
    const alone = await imported({ title: 'Glass Canyon', device: 'Oru Fold' }, [[1, 50]]);
    const sitting = await imported({ title: 'Glass Canyon' }, [[2, 60]], [title(1, 'Hexgarden')]);
    const [part] = (await get(sitting.id)).parts;
    // a run stands among others once its figures are there: they are computed in the background, or when asked for
    await get(part!.id);
    const { body } = await harness.request('GET', `/runs/${alone.id}/standing?scope=title`);
    expect(body.ids).toEqual([part!.id]);
  });
});

describe('runs of one sitting', () => {
  const began = (minute: number): string => new Date(Date.UTC(2026, 4, 9, 10, minute)).toISOString();

  it('are joined on one clock with their gaps, and taken apart again', async () => {
    const first = await imported(
      { startedAt: began(0) },
      [[10, 60]],
      [
        { type: 'battery', atMs: 0, percent: 100 },
        { type: 'end', atMs: 10 * MIN, reason: 'planned' },
      ],
    );
    const second = await imported(
      { title: 'Hexgarden', setup: 'low', startedAt: began(15) },
      [[5, 30]],
      [
        { type: 'battery', atMs: 5 * MIN, percent: 88 },
        { type: 'span', fromMs: MIN, toMs: 2 * MIN, kind: 'cooler' },
        { type: 'rate', fps: 30, by: 'eye' },
        { type: 'end', atMs: 5 * MIN, reason: 'crash' },
      ],
    );
    const { status, body } = await send('POST', '/runs/join', { runs: [second.id, first.id] });
    expect([status, body.message]).toEqual([201, undefined]);
    const sitting = body as RunDetail;
    expect(sitting.joined).toBe(true);
    expect(sitting.figures.frames).toMatchObject({ count: 10 * 60 * 60 + 5 * 60 * 30 });
    expect(sitting.figures.frames.seconds).toBeCloseTo(20 * 60, 1);
    expect(sitting.figures.end).toMatchObject({ atMs: 20 * MIN, reason: 'crash' });
    expect(sitting.figures.sitting!.titles.map(({ title: name, fromS }) => [name, fromS])).toEqual([
      ['Aurelune', 0],
      ['Hexgarden (low)', 900],
    ]);
    const lines = sitting.entries.map((entry) => entry.line);
    expect(lines).toContainEqual({ type: 'span', fromMs: 16 * MIN, toMs: 17 * MIN, kind: 'cooler' });
    const pause = lines.find((line) => line.type === 'span' && line.kind === 'pause');
    expect(pause).toMatchObject({ toMs: 15 * MIN });
    expect(lines).toContainEqual(
      expect.objectContaining({
        type: 'mark',
        kind: 'note',
        note: expect.stringMatching(/^1 value without/),
      }),
    );
    const parts = await Promise.all(sitting.parts.map((part) => get(part.id)));
    expect(parts.map((part) => Math.round(part.figures.pace.average!))).toEqual([60, 30]);
    expect(parts[1]!.figures.frames.count).toBe(5 * 60 * 30);
    expect((await harness.request('GET', `/runs/${first.id}`)).status).toBe(404);

    const apart = await send('POST', `/runs/${sitting.id}/apart`, undefined);
    expect(apart.body.runs).toEqual([first.id, second.id]);
    expect((await get(first.id)).figures).toEqual(first.figures);
    expect((await harness.request('GET', `/runs/${sitting.id}`)).status).toBe(404);
    expect((await harness.request('GET', `/runs/${sitting.parts[0]!.id}`)).status).toBe(404);
  });

  /** Two runs, 0:00 to 10:00 and 15:00 to 20:00, joined. */
  const joinedPair = async (): Promise<{ first: RunDetail; second: RunDetail; sitting: RunDetail }> => {
    const first = await imported(
      { startedAt: began(0) },
      [[10, 60]],
      [
        skin(2, 31),
        skin(4, 33),
        {
          type: 'span',
          fromMs: 2 * MIN,
          toMs: 3 * MIN,
          kind: 'menu',
        },
      ],
    );
    const second = await imported({ title: 'Hexgarden', startedAt: began(15) }, [[5, 30]]);
    const { status, body } = await send('POST', '/runs/join', { runs: [first.id, second.id] });
    expect([status, body.message]).toEqual([201, undefined]);
    return { first, second, sitting: body };
  };
  const write = async (id: string, entries: object[]): Promise<void> => {
    const { status, body } = await send('POST', `/runs/${id}/entries`, { entries });
    expect([status, body.message]).toEqual([200, undefined]);
  };
  const linesIn = async (id: string): Promise<EntryLine[]> =>
    (await harness.request('GET', `/runs/${id}/file`)).body
      .trim()
      .split('\n')
      .map((line: string) => JSON.parse(line))
      .filter(({ type }: { type: string }) => !['run', 'frames'].includes(type));

  it('that are taken apart take what was written since, each the lines of its time', async () => {
    const { first, second, sitting } = await joinedPair();
    await write(sitting.id, [
      skin(6, 35),
      skin(17, 38),
      { type: 'span', fromMs: 8 * MIN, toMs: 16 * MIN, kind: 'cooler' },
      { type: 'battery', atMs: 12 * MIN, percent: 61 },
      { type: 'rate', fps: 44, by: 'overlay' },
    ]);
    // what came from a run is corrected, moved and taken out at the sitting
    const menu = (await get(sitting.id)).entries.find(
      ({ line }) => line.type === 'span' && line.kind === 'menu',
    )!;
    await send('PUT', `/runs/${sitting.id}/entries/${menu.id}`, {
      line: { type: 'span', fromMs: 16 * MIN, toMs: 17 * MIN, kind: 'menu' },
    });
    const corrected = await send('PATCH', `/runs/${sitting.id}`, {
      roomC: 21.5,
      conditions: ['pre-release'],
    });
    expect([corrected.status, corrected.body.message]).toEqual([200, undefined]);

    const apart = await send('POST', `/runs/${sitting.id}/apart`, undefined);
    expect(apart.body.runs).toEqual([first.id, second.id]);
    const endMs = first.figures.frames.seconds * 1000;
    const note = (says: string): EntryLine => ({ type: 'mark', atMs: endMs, kind: 'note', note: says });
    expect(await linesIn(first.id)).toEqual([
      skin(2, 31),
      skin(4, 33),
      note('of the whole session: 44 fps, overlay'),
      skin(6, 35),
      { type: 'span', fromMs: 8 * MIN, toMs: endMs, kind: 'cooler' },
      note('1:59.988 after its end, in the pause: battery 61 %'),
    ]);
    expect(await linesIn(second.id)).toEqual([
      { type: 'span', fromMs: 0, toMs: MIN, kind: 'cooler' },
      skin(2, 38),
      { type: 'span', fromMs: MIN, toMs: 2 * MIN, kind: 'menu' },
    ]);
    for (const id of [first.id, second.id])
      expect(await get(id)).toMatchObject({ roomC: 21.5, conditions: ['pre-release'] });
    // its minutes are there on their own: it does not come back beside them
    const again = await harness.request('POST', `/runs/${sitting.id}/restore`);
    expect([again.status, again.body.code]).toEqual([409, 'taken-apart']);
  });

  it('that were joined count once: neither they nor their sitting come back beside the other', async () => {
    const { first, second, sitting } = await joinedPair();
    const refused = await harness.request('POST', `/runs/${first.id}/restore`);
    expect([refused.status, refused.body]).toEqual([
      409,
      expect.objectContaining({ code: 'joined', runId: sitting.id }),
    ]);
    // a stretch comes and goes with its sitting
    const [part] = sitting.parts;
    expect((await harness.request('POST', `/runs/${part!.id}/restore`)).body.code).toBe('part-of-sitting');
    // its runs do not go with a sitting that somebody deletes
    const gone = await harness.request('DELETE', `/runs/${sitting.id}`);
    expect([gone.status, gone.body.code]).toEqual([409, 'joined']);
    // one that was deleted before that was refused: its runs come back together, and it does not
    await harness.pool.query('update run set deleted_at = now() where id = $1 or sitting_id = $1', [
      sitting.id,
    ]);
    await harness.request('POST', `/runs/${second.id}/restore`);
    expect((await get(first.id)).title).toBe('Aurelune');
    expect((await harness.request('POST', `/runs/${sitting.id}/restore`)).status).toBe(409);
  });

  it('are not removed for good with a sitting that is', async () => {
    const { first, sitting } = await joinedPair();
    await harness.pool.query(
      "update run set deleted_at = now() - interval '31 days' where id = $1 or joined_into = $1 or sitting_id = $1",
      [sitting.id],
    );
    for (const _twice of [1, 2]) await purgeDeleted(harness.pool, 30);
    expect((await harness.request('POST', `/runs/${sitting.id}/restore`)).status).toBe(404);
    expect((await harness.request('POST', `/runs/${first.id}/restore`)).status).toBe(204);
    expect((await get(first.id)).figures).toEqual(first.figures);
  });

  it.each<[string, () => Promise<string[]>, string]>([
    [
      'of two devices',
      async () => [
        (await imported({ startedAt: began(0) }, [[1, 60]])).id,
        (await imported({ startedAt: began(5), device: 'Velm 5' }, [[1, 60]])).id,
      ],
      'All runs of a session must be from one device.',
    ],
    [
      'of which one does not say when it began',
      async () => [
        (await imported({ startedAt: began(0) }, [[1, 60]])).id,
        (await imported({}, [[1, 60]])).id,
      ],
      'startedAt',
    ],
    [
      'that overlap',
      async () => [
        (await imported({ startedAt: began(0) }, [[10, 60]])).id,
        (await imported({ startedAt: began(5) }, [[1, 60]])).id,
      ],
      'Correct the start times',
    ],
    [
      'of which one is one twice',
      async () => {
        const { id } = await imported({ startedAt: began(0) }, [[1, 60]]);
        return [id, id];
      },
      'at least two runs',
    ],
  ])('are refused %s, and nothing is changed', async (_case, make, remedy) => {
    const ids = await make();
    const { status, body } = await send('POST', '/runs/join', { runs: ids });
    expect([status, body.remedy]).toEqual([422, expect.stringContaining(remedy)]);
    for (const id of ids) expect((await harness.request('GET', `/runs/${id}`)).status).toBe(200);
  });

  it('are joined once, however many ask at once', async () => {
    const runs = [
      (await imported({ startedAt: began(0) }, [[1, 60]])).id,
      (await imported({ startedAt: began(5) }, [[1, 60]])).id,
    ];
    const answers = await Promise.all([1, 2, 3].map(() => send('POST', '/runs/join', { runs })));
    expect(answers.map(({ status }) => status).sort()).toEqual([201, 404, 404]);
  });
});

describe('in a review', () => {
  it('a sitting stands for its titles, and is told as one', async () => {
    const sitting = await imported(
      { need: 'story' },
      [
        [16, 60],
        [16, 30],
      ],
      [title(16, 'Hexgarden')],
    );
    const { status, body } = await send('POST', '/reviews', {
      id: randomUUID(),
      name: 'On deck',
      template: 'quick look',
      runs: [sitting.id],
    });
    expect([status, body.message]).toEqual([201, undefined]);
    expect(body.gone).toBe(0);
    expect(body.evidence.map((run: { name: string }) => run.name)).toEqual([
      'Aurelune on Oru Fold',
      'Hexgarden on Oru Fold',
    ]);
    expect(body.searched.sittings).toEqual([expect.objectContaining({ name: sitting.name })]);
    expect(body.searched.limits.map((one: { name: string }) => one.name)).toEqual([
      'Aurelune on Oru Fold',
      'Hexgarden on Oru Fold',
    ]);
  });
});

describe('synthetic scores', () => {
  const note = (device: string, scores: number[], more: object = {}): ReturnType<Harness['request']> =>
    send('POST', '/synthetic', {
      id: randomUUID(),
      doc: { device, tool: 'Plumb Line', version: '3', scores, ...more },
    });
  it('are kept apart, told with loop and rise, and questioned where nothing came near', async () => {
    for (const name of ['Velm 5', 'Velm 4', 'Kitto Mini'])
      await send('POST', '/kit/device', { name, facts: { kind: 'phone' } });
    await note('Velm 4', [3000]);
    await note('Kitto Mini', [2500]);
    const made = await note('Velm 5', [6300, 4725], { coldC: 22, hotC: 36 });
    expect(made.body).toMatchObject({
      loop: { ratio: 0.75 },
      riseC: 14,
      question: expect.stringMatching(/^2\.1 times the best score of its class \(Velm 4\)/),
    });
    // nothing of it is a run
    expect((await list()).map((run) => run.title)).not.toContain('Plumb Line');
    const all = async (): Promise<unknown[]> => (await harness.request('GET', '/synthetic')).body;
    expect(await all()).toHaveLength(3);
    await harness.request('DELETE', `/synthetic/${made.body.id}`);
    expect(await all()).toHaveLength(2);
    await harness.request('POST', `/synthetic/${made.body.id}/restore`);
    expect(await all()).toHaveLength(3);
  });
  it.each([
    [[], 'doc.scores'],
    [[0], 'doc.scores.0'],
    [[-4], 'doc.scores.0'],
  ])('of %j are refused with their place', async (scores, field) => {
    const { status, body } = await note('Velm 5', scores);
    expect([status, body.field]).toEqual([400, field]);
  });
});
