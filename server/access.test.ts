import { randomUUID } from 'node:crypto';
import { mayDo, pathOf, ROLES, ROUTES, type Role, type Route, type RouteName } from '@pace-check/contract';
import { LOOPBACK } from './index';
import { Access } from './services/access';
import { opening, startHarness, type Harness } from './testing/harness';

/** A server that others reach. */
let open: Harness;
let access: Access;
beforeAll(async () => {
  open = await startHarness({ door: { ...LOOPBACK, closed: true, startKey: 'of this start' } });
  access = new Access(open.pool);
});
afterAll(() => open.close());
/** Wrong tries of one test are none of the next. */
beforeEach(() => open.pool.query('delete from tries'));

const PASSCODE = 'seven calm otters';
const ask = (path: string, init: RequestInit = {}): Promise<Response> =>
  fetch(`${open.address}${path}`, { redirect: 'manual', ...init });
const post = (path: string, fields: Record<string, string>): Promise<Response> =>
  ask(path, { method: 'POST', body: new URLSearchParams(fields) });
const cookieOf = (response: Response): string | null =>
  response.headers.get('set-cookie')?.split(';')[0] ?? null;
/** The cookie of somebody who was let in as this. */
async function joinAs(role: Role, name: string = role): Promise<string> {
  const { token } = await access.invite({ role, name });
  return cookieOf(await post('/join', { token }))!;
}
const codeOf = async (response: Response): Promise<string> => {
  const text = await response.text();
  try {
    return (JSON.parse(text) as { code?: string }).code ?? '';
  } catch {
    return '';
  }
};

describe('each address of the table', () => {
  const cookies = new Map<Role, string>();
  beforeAll(async () => {
    for (const role of ROLES) cookies.set(role, await joinAs(role));
  });

  /** The address with ids that name nothing, asked for as nobody's, or as somebody of a role. */
  function askFor(name: RouteName, role: Role | null): Promise<Response> {
    const route: Route = ROUTES[name];
    const of: Record<string, string | readonly string[]> = route.of;
    const params = Object.fromEntries(
      Object.entries(of).map(([part, what]) => [part, typeof what === 'string' ? randomUUID() : what[0]!]),
    );
    return ask(`/api${pathOf(route, { params } as never)}`, {
      method: route.method,
      headers: {
        'x-pace-check-upload': '1',
        ...(route.method === 'GET' ? {} : { 'content-type': 'application/json' }),
        ...(role === null ? {} : { cookie: cookies.get(role)! }),
      },
      body: route.method === 'GET' ? undefined : '{}',
    });
  }

  // leaving is told of below: whoever leaves is nobody afterwards
  it.each((Object.keys(ROUTES) as RouteName[]).filter((name) => name !== 'leave'))(
    '%s refuses those who may less, and no one else',
    async (name) => {
      const { needs } = ROUTES[name];
      for (const role of [null, ...ROLES]) {
        const response = await askFor(name, role);
        const code = await codeOf(response);
        if (mayDo(role, needs)) expect(code).not.toMatch(/^(login-needed|not-for-this-role)$/);
        else
          expect([response.status, code]).toEqual(
            role === null ? [401, 'login-needed'] : [403, 'not-for-this-role'],
          );
        // nothing of it is kept on the way
        expect(response.headers.get('cache-control')).toMatch(/no-store|no-cache/);
      }
    },
  );
  it('says who may, and as what one is here', async () => {
    const refusal = async (name: RouteName, role: Role): Promise<string> =>
      ((await (await askFor(name, role)).json()) as { message: string }).message;
    expect(await refusal('deleteRun', 'reader')).toBe(
      'Only a reviewer can do this; you are signed in as a viewer.',
    );
    expect(await refusal('benchChanges', 'reader')).toBe(
      'Only an assistant or a reviewer can do this; you are signed in as a viewer.',
    );
  });
  it('says of most that nobody unknown may', () => {
    const free = (Object.keys(ROUTES) as RouteName[]).filter((name) => mayDo(null, ROUTES[name].needs));
    expect(free).toEqual(['health', 'liveStatus', 'live', 'liveShell']);
  });
  it('lets no helper delete a run, a card, a comparison or a review, nor change settings', () => {
    for (const name of [
      'deleteRun',
      'deleteCard',
      'deleteComparison',
      'deleteReview',
      'deleteRecord',
      'changeSettings',
      'revokeSession',
      'newJoinCode',
    ] as const)
      expect([name, mayDo('bench', ROUTES[name].needs)]).toEqual([name, false]);
    for (const name of ['benchChanges', 'runChanges', 'addEntries', 'cardChanges'] as const)
      expect([name, mayDo('bench', ROUTES[name].needs), mayDo('reader', ROUTES[name].needs)]).toEqual([
        name,
        true,
        false,
      ]);
  });
});

describe('the passcode', () => {
  beforeAll(() => access.setPasscode(PASSCODE));

  it('leads to its page, and from there to where one wanted to go', async () => {
    const first = await ask('/runs/abc', { headers: { accept: 'text/html' } });
    expect([first.status, first.headers.get('location')]).toEqual([303, '/enter?then=%2Fruns%2Fabc']);
    expect(await (await ask('/enter?then=/runs/abc')).text()).toContain('name="then" value="/runs/abc"');
    const wrong = await post('/enter', { passcode: 'seven calm badgers' });
    expect([wrong.status, cookieOf(wrong)]).toEqual([403, null]);
    expect(await wrong.text()).toContain('Wrong passcode');
    const right = await post('/enter', { passcode: ` ${PASSCODE} `, then: '/runs/abc', name: 'the laptop' });
    expect([right.status, right.headers.get('location')]).toEqual([303, '/runs/abc']);
    expect(right.headers.get('set-cookie')).toMatch(/; HttpOnly; SameSite=Strict$/);
    const me = await ask('/api/me', { headers: { cookie: cookieOf(right)! } });
    expect(await me.json()).toEqual({ role: 'reviewer', name: 'the laptop', closed: true });
  });
  it('lets in whatever the device is called, and twice the same field nobody', async () => {
    for (const [name, called] of [
      ['', 'with passcode'],
      ['a\u0000b', 'with passcode'],
      ['x'.repeat(5 * 24 + 1), 'with passcode'],
      [' the  desk ', 'the  desk'],
    ] as const) {
      const cookie = cookieOf(await post('/enter', { passcode: PASSCODE, name }))!;
      expect(await (await ask('/api/me', { headers: { cookie } })).json()).toMatchObject({ name: called });
    }
    const twice = await ask('/enter', {
      method: 'POST',
      headers: { 'content-type': 'application/x-www-form-urlencoded' },
      body: `passcode=${PASSCODE}&passcode=${PASSCODE}`,
    });
    expect(twice.status).toBe(403);
  });
  it('leads nobody away with its form', async () => {
    for (const then of ['//evil.example', 'https://evil.example', '/\\evil.example', '/a"><script>'])
      expect(await (await ask(`/enter?then=${encodeURIComponent(then)}`)).text()).toContain(
        'name="then" value="/"',
      );
  });
  it('is kept as a hash with a salt of its own', async () => {
    const kept = async (): Promise<{ salt: Buffer; hash: Buffer }> =>
      (await open.pool.query('select salt, hash from passcode')).rows[0];
    const first = await kept();
    await access.setPasscode(PASSCODE);
    const second = await kept();
    expect(first.hash.equals(second.hash)).toBe(false);
    expect(first.salt.equals(second.salt)).toBe(false);
    const all = await open.pool.query('select passcode::text as row from passcode');
    expect(all.rows[0].row).not.toContain('otters');
  });
  it.each([
    ['short', 'The passcode has only 5 characters.'],
    ['aaaaaaaaaaaaaaaa', 'The passcode uses too few different characters.'],
    ['x1'.repeat(200), 'The passcode has more than 200 characters.'],
  ])('is not %j', async (passcode, message) => {
    await expect(access.setPasscode(passcode)).rejects.toMatchObject({ message });
    // the one before stays
    expect((await post('/enter', { passcode: PASSCODE })).status).toBe(303);
  });
  it('is not guessed: after ten wrong tries the right one is not heard either, at this server or another', async () => {
    const tries = await Promise.all(
      Array.from({ length: 100 }, (_, i) => post('/enter', { passcode: `wrong passcode ${i}` })),
    );
    const statuses = tries.map(({ status }) => status);
    expect(statuses.filter((status) => status === 403)).toHaveLength(10);
    expect(statuses.filter((status) => status === 429)).toHaveLength(90);
    const late = await post('/enter', { passcode: PASSCODE });
    expect([late.status, cookieOf(late)]).toEqual([429, null]);
    expect(Number(late.headers.get('retry-after'))).toBeGreaterThan(600);
    expect(await late.text()).toMatch(/Too many wrong attempts.*Try again in 1[45] minutes/);
    await expect(new Access(open.pool).enter(PASSCODE, '127.0.0.1', 'elsewhere')).rejects.toMatchObject({
      status: 429,
    });
    // another address is another one, and a right try forgives its own wrong ones
    expect(await access.enter('wrong again and', '192.0.2.7', 'x')).toBeNull();
    expect(await access.enter(PASSCODE, '192.0.2.7', 'x')).not.toBeNull();
    const { rows } = await open.pool.query("select key from tries where key like 'one%192.0.2.7'");
    expect(rows).toEqual([]);
  });
  it('counts a network of IPv6 as one', async () => {
    for (let i = 0; i < 10; i++) await access.enter('wrong passcode', `2001:db8:0:7::${i}`, 'x');
    await expect(access.enter(PASSCODE, '2001:db8:0:7:1:2:3:4', 'x')).rejects.toMatchObject({ status: 429 });
    expect(await access.enter(PASSCODE, '2001:db8:0:8::1', 'x')).not.toBeNull();
  });
  it('puts out who came in by the one before', async () => {
    const cookie = cookieOf(await post('/enter', { passcode: PASSCODE }))!;
    await access.setPasscode('another seven otters');
    expect((await ask('/api/me', { headers: { cookie } })).status).toBe(401);
    await access.setPasscode(PASSCODE);
  });
});

describe('a code that joins', () => {
  it('lets one in, once, as what it was made for', async () => {
    const { code, token } = await access.invite({ role: 'bench', name: 'phone on the bench' });
    expect(code).toMatch(/^\d{6}$/);
    expect(await (await ask(`/join?token=${token}`)).text()).toContain('Sign in on this device');
    const typed = `${code.slice(0, 3)} ${code.slice(3)}`;
    const cookie = cookieOf(await post('/join', { code: typed }))!;
    expect(await (await ask('/api/me', { headers: { cookie } })).json()).toMatchObject({
      role: 'bench',
      name: 'phone on the bench',
    });
    for (const again of [{ code }, { token }] as Record<string, string>[]) {
      const response = await post('/join', again);
      expect([response.status, cookieOf(response)]).toEqual([403, null]);
      expect(await response.text()).toContain('it was used or has expired');
    }
  });
  it('lets one of two in who scan it at once', async () => {
    const { token } = await access.invite({ role: 'reader', name: 'next room' });
    const both = await Promise.all([post('/join', { token }), post('/join', { token })]);
    expect(both.map(({ status }) => status).sort()).toEqual([303, 403]);
  });
  it('is none after its two minutes', async () => {
    const { token } = await access.invite({ role: 'reader', name: 'too late' });
    await open.pool.query("update join_code set until = now() - interval '1 second'");
    expect((await post('/join', { token })).status).toBe(403);
  });
  it('is not guessed', async () => {
    await access.invite({ role: 'reviewer', name: 'somebody' });
    const tries = await Promise.all(
      Array.from({ length: 60 }, (_, i) => post('/join', { code: String(i).padStart(6, '0') })),
    );
    expect(tries.filter(({ status }) => status === 403).length).toBeLessThanOrEqual(10);
    expect(tries.some(({ status }) => status === 429)).toBe(true);
  });
  it('is no name that cannot be, and no role that is none', async () => {
    const make = async (body: object): Promise<number> =>
      (
        await ask('/api/join-codes', {
          method: 'POST',
          headers: { 'content-type': 'application/json', 'x-pace-check-start': 'of this start' },
          body: JSON.stringify(body),
        })
      ).status;
    expect(
      await Promise.all([
        make({ role: 'owner', name: 'x' }),
        make({ role: 'bench', name: ' ' }),
        make({ role: 'bench', name: 'a\u0000b' }),
        make({ role: 'bench', name: 'x', more: 1 }),
      ]),
    ).toEqual([400, 400, 400, 400]);
  });
});

describe('a session', () => {
  it('is listed with its last use, and ends for good when it is ended', async () => {
    const [reviewer, phone] = [await joinAs('reviewer', 'the desk'), await joinAs('bench', 'lost phone')];
    const list = async (): Promise<{ id: string; name: string; own: boolean }[]> =>
      ((await (await ask('/api/sessions', { headers: { cookie: reviewer } })).json()) as any).sessions; // eslint-disable-line @typescript-eslint/no-explicit-any -- examined field by field
    const lost = (await list()).find(({ name }) => name === 'lost phone')!;
    expect((await list()).filter(({ own }) => own).map(({ name }) => name)).toEqual(['the desk']);
    const ended = await ask(`/api/sessions/${lost.id}`, { method: 'DELETE', headers: { cookie: reviewer } });
    expect(ended.status).toBe(204);
    for (const path of ['/api/runs', '/api/me'])
      expect((await ask(path, { headers: { cookie: phone } })).status).toBe(401);
    expect((await list()).some(({ name }) => name === 'lost phone')).toBe(false);
    expect(
      (await ask(`/api/sessions/${lost.id}`, { method: 'DELETE', headers: { cookie: reviewer } })).status,
    ).toBe(404);
  });
  it('ends with a word to whom it belongs', async () => {
    const cookie = await joinAs('reader');
    const left = await ask('/api/me', { method: 'DELETE', headers: { cookie } });
    expect([left.status, left.headers.get('set-cookie')]).toEqual([
      204,
      expect.stringContaining('Expires=Thu, 01 Jan 1970'),
    ]);
    expect((await ask('/api/me', { headers: { cookie } })).status).toBe(401);
  });
  it('is none after a month without use', async () => {
    const cookie = await joinAs('reader', 'forgotten');
    await open.pool.query("update session set used_at = now() - interval '31 days' where name = 'forgotten'");
    expect((await ask('/api/me', { headers: { cookie } })).status).toBe(401);
  });
  it('hears no more of a run once it is ended', async () => {
    const cookie = await joinAs('bench', 'listening');
    const run = randomUUID();
    const opened = await ask(`/api/bench/${run}/changes`, {
      method: 'POST',
      headers: { cookie, 'content-type': 'application/json' },
      body: JSON.stringify({ changes: [opening()] }),
    });
    expect(await opened.json()).toMatchObject({ refused: [] });
    const stream = await ask(`/api/bench/${run}/events`, { headers: { cookie } });
    expect(stream.status).toBe(200);
    await open.pool.query("delete from session where name = 'listening'");
    // it ends at the next beat: reading on gives an error or an end, never more for ever
    const reader = stream.body!.getReader();
    await expect(
      (async () => {
        for (;;) if ((await reader.read()).done) throw new Error('ended');
      })(),
    ).rejects.toThrow();
  });
  it('is nothing that a cookie can be made up for', async () => {
    for (const cookie of ['pace-check=', `pace-check=${'0'.repeat(43)}`, "pace-check='or'1'='1"])
      expect((await ask('/api/runs', { headers: { cookie } })).status).toBe(401);
  });
});

describe('what somebody leaves behind', () => {
  const asJson = (cookie: string): Record<string, string> => ({ cookie, 'content-type': 'application/json' });
  const send = (cookie: string, method: string, path: string, body?: unknown): Promise<Response> =>
    ask(`/api${path}`, {
      method,
      headers: asJson(cookie),
      body: body === undefined ? undefined : JSON.stringify(body),
    });
  /** A run that is recorded, and a key that somebody made for it. */
  async function keyOf(cookie: string): Promise<{ run: string; key: string }> {
    const run = randomUUID();
    const changes = [opening(), { id: randomUUID(), kind: 'start', at: Date.now() - 60_000 }];
    expect(await (await send(cookie, 'POST', `/bench/${run}/changes`, { changes })).json()).toMatchObject({
      refused: [],
    });
    const { key } = (await (
      await send(cookie, 'POST', `/bench/${run}/sources`, { name: 'logger', kind: 'handset' })
    ).json()) as { key: string };
    return { run, key };
  }
  const batch = async (key: string, seq: number): Promise<[number, string]> => {
    const answer = await ask(`/api/live?seq=${seq}`, {
      method: 'POST',
      headers: { authorization: `Bearer ${key}` },
      body: '{"type":"skin","atMs":1000,"spot":"back","c":31.5,"by":"probe"}',
    });
    return [answer.status, answer.status === 200 ? '' : await codeOf(answer)];
  };

  it('is no key: it ends with the session that made it', async () => {
    const helper = await joinAs('bench', 'put out soon');
    const { key } = await keyOf(helper);
    expect(await batch(key, 0)).toEqual([200, '']);
    await open.pool.query("delete from session where name = 'put out soon'");
    expect(await batch(key, 1)).toEqual([403, 'key-ended']);
    const status = await ask('/api/live', { headers: { authorization: `Bearer ${key}` } });
    expect([status.status, await codeOf(status)]).toEqual([403, 'key-ended']);
  });
  it('is no key after a new passcode, which puts everybody out', async () => {
    const reviewer = await joinAs('reviewer', 'the desk');
    const { key } = await keyOf(reviewer);
    expect(await batch(key, 0)).toEqual([200, '']);
    await access.setPasscode('another seven otters');
    expect(await batch(key, 1)).toEqual([403, 'key-ended']);
    await access.setPasscode(PASSCODE);
  });
  it('is no key a quarter of an hour after its run; a late batch until then is taken', async () => {
    const reviewer = await joinAs('reviewer', 'the desk');
    const { run, key } = await keyOf(reviewer);
    const end = {
      id: randomUUID(),
      kind: 'end',
      entry: randomUUID(),
      atMs: 50_000,
      reason: 'planned',
      writer: 'desk',
    };
    expect(
      await (await send(reviewer, 'POST', `/bench/${run}/changes`, { changes: [end] })).json(),
    ).toMatchObject({
      refused: [],
    });
    const { rows } = await open.pool.query(
      'select ended_at is not null as ended from recording where run_id = $1',
      [run],
    );
    expect(rows).toEqual([{ ended: true }]);
    expect(await batch(key, 0)).toEqual([200, '']);
    await open.pool.query("update recording set ended_at = now() - interval '16 minutes' where run_id = $1", [
      run,
    ]);
    expect(await batch(key, 1)).toEqual([403, 'key-ended']);
  });

  it('a helper changes an outcome of their own, and none of the reviewer’s, deleted or not', async () => {
    const [reviewer, helper] = [await joinAs('reviewer'), await joinAs('bench')];
    const outcome = (id: string, status: string): object => ({
      outcomes: [{ id, device: 'Velm 5', title: 'Iron Orchard', status, date: '2026-03-01' }],
    });
    const [theirs, own] = [randomUUID(), randomUUID()];
    expect((await send(reviewer, 'POST', '/outcomes', outcome(theirs, 'full speed'))).status).toBeLessThan(
      300,
    );
    expect((await send(helper, 'POST', '/outcomes', outcome(own, 'full speed'))).status).toBeLessThan(300);
    expect((await send(helper, 'POST', '/outcomes', outcome(own, 'slow'))).status).toBeLessThan(300);
    const refused = await send(helper, 'POST', '/outcomes', outcome(theirs, 'crashes'));
    expect([refused.status, await codeOf(refused)]).toEqual([403, 'not-yours']);
    await send(reviewer, 'DELETE', `/outcomes/${theirs}`);
    expect((await send(helper, 'POST', '/outcomes', outcome(theirs, 'slow'))).status).toBe(403);
    const all = (await (await send(helper, 'GET', '/outcomes')).json()) as {
      outcomes: { id: string; status: string }[];
    };
    expect(all.outcomes.filter(({ id }) => id === theirs || id === own)).toMatchObject([
      { id: own, status: 'slow' },
    ]);
    expect((await send(reviewer, 'POST', '/outcomes', outcome(own, 'full speed'))).status).toBeLessThan(300);
  });

  it('a helper’s result teaches the kit nothing, and changes no verdict of others', async () => {
    const [reviewer, helper] = [await joinAs('reviewer'), await joinAs('bench')];
    const result = (target: number) => ({
      name: null,
      facts: { device: 'Velm 5', title: 'Taught Tower', setup: null, target, refresh: null, roomC: null },
      need: 'action',
      fromKit: true,
      entries: [{ type: 'rate', fps: 40, by: 'overlay' }],
    });
    const titles = async (): Promise<{ name: string; facts: object }[]> =>
      ((await (await send(reviewer, 'GET', '/kit')).json()) as { titles: { name: string; facts: object }[] })
        .titles;
    const taught = async (): Promise<object | undefined> =>
      (await titles()).find((one) => one.name === 'Taught Tower')?.facts;
    const made = await send(helper, 'POST', '/runs', result(40));
    expect([made.status, await taught()]).toEqual([201, {}]);
    expect((await made.json()) as object).toMatchObject({ target: 40, need: 'action' });
    expect((await send(reviewer, 'POST', '/runs', result(60))).status).toBe(201);
    expect(await taught()).toEqual({ target: 60, need: 'action' });
  });
  it('a helper adds probes to a ladder and takes their own back, and empties nothing', async () => {
    const [reviewer, helper] = [await joinAs('reviewer'), await joinAs('bench')];
    const id = randomUUID();
    const probe = (): object => ({ id: randomUUID(), rung: '1x', percent: 100 });
    const doc = {
      device: 'Velm 5',
      title: 'Rook Tower',
      axis: 'internal resolution',
      rungs: [{ name: '1x' }, { name: '2x' }],
      probes: [probe()],
    };
    const made = await send(reviewer, 'POST', '/ladders', { id, doc });
    expect(made.status).toBeLessThan(300);
    let at = (await made.json()) as { revision: number; doc: typeof doc };
    const change = async (cookie: string, next: object): Promise<number> => {
      const answer = await send(cookie, 'PUT', `/ladders/${id}`, {
        revision: at.revision,
        doc: { ...at.doc, ...next },
      });
      if (answer.status < 300) at = (await answer.json()) as typeof at;
      return answer.status;
    };
    expect(await change(helper, { probes: [] })).toBe(403);
    expect(await change(helper, { rungs: [{ name: '1x' }], probes: [] })).toBe(403);
    expect(await change(helper, { device: 'Velm 4' })).toBe(403);
    const before = at.doc.probes;
    expect(await change(helper, { probes: [...before, probe()] })).toBe(200);
    expect(await change(helper, { probes: before })).toBe(200);
    expect(await change(reviewer, { probes: [] })).toBe(200);
  });

  it('a helper places a spot that lies nowhere yet, and moves none', async () => {
    const [reviewer, helper] = [await joinAs('reviewer'), await joinAs('bench')];
    const { id } = (await (
      await send(reviewer, 'POST', '/runs', {
        name: null,
        facts: { device: 'Oru Fold', title: 'Hexgarden', setup: null, target: 60, refresh: 60, roomC: 18 },
        entries: [{ type: 'skin', atMs: 1000, spot: 'back', c: 31, by: 'infrared' }],
      })
    ).json()) as { id: string };
    const place = (cookie: string, spot: string, x: number): Promise<Response> =>
      send(cookie, 'PUT', `/runs/${id}/spots`, { places: [{ spot, side: 'back', x, y: 0.5 }] });
    expect((await place(reviewer, 'back', 0.3)).status).toBe(200);
    const moved = await place(helper, 'back', 0.9);
    expect([moved.status, await codeOf(moved)]).toEqual([403, 'not-yours']);
    expect((await place(helper, 'hinge', 0.5)).status).toBe(200);
  });
});

describe('a server for its own machine', () => {
  it('asks nobody, and refuses what a proxy that it does not know brings in', async () => {
    const own = await startHarness();
    try {
      expect((await own.request('GET', '/me')).body).toEqual({ role: 'reviewer', name: null, closed: false });
      for (const header of [
        'x-forwarded-for',
        'forwarded',
        'x-real-ip',
        'via',
        'x-forwarded-proto',
        'cf-connecting-ip',
      ]) {
        const { status, body } = await own.request('GET', '/runs', undefined, { [header]: '203.0.113.9' });
        expect([status, body.code]).toEqual([403, 'unknown-proxy']);
      }
    } finally {
      await own.close();
    }
  });
  it('behind a proxy that it knows, believes whom that speaks for, and sends its cookie over TLS alone', async () => {
    const behind = await startHarness({ door: { ...LOOPBACK, closed: true, proxies: 1 } });
    try {
      const others = new Access(behind.pool);
      const { token } = await others.invite({ role: 'reader', name: 'from afar' });
      // between the browser and the proxy all would go as it is: nobody comes in, and the code stays good
      const plain = await fetch(`${behind.address}/join`, {
        method: 'POST',
        body: new URLSearchParams({ token }),
        redirect: 'manual',
        headers: { 'x-forwarded-for': '203.0.113.9', 'x-forwarded-proto': 'http' },
      });
      expect([plain.status, plain.headers.get('set-cookie')]).toEqual([403, null]);
      expect(await plain.text()).toContain('https');
      const response = await fetch(`${behind.address}/join`, {
        method: 'POST',
        body: new URLSearchParams({ token }),
        redirect: 'manual',
        headers: { 'x-forwarded-for': '203.0.113.9', 'x-forwarded-proto': 'https' },
      });
      expect(response.headers.get('set-cookie')).toMatch(/; Secure/);
      expect(response.headers.get('strict-transport-security')).toMatch(/max-age=\d{7}/);
    } finally {
      await behind.close();
    }
  });
});
