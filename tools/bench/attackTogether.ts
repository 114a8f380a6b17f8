import { createHash, randomUUID } from 'node:crypto';
import { mayDo, pathOf, ROLES, ROUTES, type Role, type Route, type RouteName } from '@pace-check/contract';
import { SeededRandom } from '@pace-check/core';
import { unzipSync, zipSync } from 'fflate';
import { administer } from '../administer';
import { startServer } from '../serve';
import type { Attack, Target } from './attack';

/** What several people can do to each other: odd data that is brought in, roles, two tabs. */

const UPLOAD = { 'x-pace-check-upload': '1' };
const JSON_BODY = { 'content-type': 'application/json' };

async function send(address: string, method: string, path: string, body?: unknown): Promise<Response> {
  return fetch(`${address}/api${path}`, {
    method,
    ...(body === undefined ? {} : { body: JSON.stringify(body), headers: JSON_BODY }),
  });
}

/** A library with something of most kinds. */
async function someLibrary(address: string): Promise<void> {
  const details = {
    fileName: 'log.csv',
    name: null,
    facts: { device: 'Velm 5', title: 'Aurelune', setup: 'Highest', target: 60, refresh: 120 },
    reading: null,
    again: true,
  };
  const imported = (await (
    await fetch(`${address}/api/imports?details=${encodeURIComponent(JSON.stringify(details))}`, {
      method: 'POST',
      body: `frame_time_ms\n${'16.7\n'.repeat(4000)}`,
      headers: UPLOAD,
    })
  ).json()) as { id: string };
  const entries = [
    { type: 'skin', atMs: 30_000, spot: 'back', c: 36.5, by: 'infrared' },
    { type: 'battery', atMs: 0, percent: 100 },
    { type: 'feel', word: 'good' },
  ];
  await send(address, 'POST', `/runs/${imported.id}/entries`, { entries });
  await send(address, 'POST', '/synthetic', {
    id: randomUUID(),
    doc: { device: 'Velm 5', tool: 'Plumb Line', version: '3', scores: [3000] },
  });
  await send(address, 'POST', '/reviews', {
    id: randomUUID(),
    name: 'On deck',
    template: 'quick look',
    runs: [imported.id],
  });
}

/** Values that no field of the field's own needs. */
const ODD: readonly unknown[] = [
  null,
  -1,
  5e-324,
  1e308,
  4e18,
  '',
  '\u0000',
  'x'.repeat(100_000),
  {},
  [],
  { toString: 1 },
  true,
  '<script>',
  '2199-01-01T00:00:00Z',
];
const ROWS = 400;
/** Pages that have to answer whatever came in. */
const PAGES = [
  '/runs?limit=50',
  '/kit',
  '/comparisons',
  '/spread',
  '/reviews',
  '/ladders',
  '/choices',
  '/synthetic',
  '/outcomes',
  '/cards',
  '/settings',
  '/unreadable',
];

/** Rows with one odd value each, brought in: taken and harmless, or refused with a word. */
export const oddRows: Attack = async ({ address }, say) => {
  await someLibrary(address);
  const whole = new Uint8Array(
    await (await fetch(`${address}/api/everything`, { headers: UPLOAD })).arrayBuffer(),
  );
  const files = unzipSync(whole);
  const tables = Object.keys(files).filter(
    (name) => /^records\/.*\.ndjson$/.test(name) && files[name]!.length > 0,
  );
  const random = new SeededRandom(7);
  const pick = <T>(values: readonly T[]): T => values[Math.floor(random.uniform() * values.length)]!;
  const tally = { taken: 0, refused: 0, wordless: 0 };
  for (let i = 0; i < ROWS; i++) {
    const name = pick(tables);
    const [first] = Buffer.from(files[name]!).toString().split('\n');
    const row = JSON.parse(first!) as Record<string, unknown>;
    const column = pick(Object.keys(row));
    const odd = {
      ...row,
      ...('id' in row && column !== 'id' ? { id: randomUUID() } : {}),
      [column]: pick(ODD),
    };
    const response = await fetch(`${address}/api/everything`, {
      method: 'POST',
      body: withFile(files, name, `${JSON.stringify(odd)}\n`),
      headers: { ...UPLOAD, 'content-type': 'application/zip' },
    });
    const text = await response.text();
    if (response.ok) tally.taken++;
    else if (response.status < 500 && text.includes('"remedy"')) tally.refused++;
    else tally.wordless++;
  }
  const answers = await Promise.all(PAGES.map((path) => send(address, 'GET', path)));
  say({
    what: `${ROWS} rows with one odd value, brought in`,
    figure: `${tally.taken} taken, ${tally.refused} refused with a word, ${tally.wordless} without one (aim: 0); ${answers.filter(({ ok }) => ok).length} of ${PAGES.length} pages answer afterwards`,
  });
};

/** The zip with one of its files in other words, and a manifest that names it as it is. */
function withFile(files: Record<string, Uint8Array>, name: string, text: string): Uint8Array<ArrayBuffer> {
  const bytes = Buffer.from(text);
  const told = JSON.parse(Buffer.from(files['manifest.json']!).toString()) as {
    files: { name: string; bytes: number; sha256: string }[];
  };
  told.files = told.files.map((file) =>
    file.name === name
      ? { name, bytes: bytes.length, sha256: createHash('sha256').update(bytes).digest('hex') }
      : file,
  );
  return zipSync({
    ...files,
    [name]: Uint8Array.from(bytes),
    'manifest.json': Uint8Array.from(Buffer.from(JSON.stringify(told))),
  }) as Uint8Array<ArrayBuffer>;
}

/** Ways to write an address that might get past who asks. */
const SPELLINGS: readonly ((path: string) => string)[] = [
  (path) => path,
  (path) => `${path}/`,
  (path) => path.toUpperCase(),
  (path) => path.replace('/api/', '//api/'),
  (path) => path.replace('/api/', '/api//'),
  (path) => path.replace('/api/', '/api/%2e/'),
  (path) => path.replace('/api/', '/api/x/../'),
  (path) => `${path}?x=/api/me`,
  (path) => path.replace('/api/', '/api;x/'),
];

/** Every address by every role in every spelling, at a server that others reach. */
export const roles: Attack = async ({ url }, say) => {
  const passcode = 'seven calm otters';
  await administer(url, ['set-passcode'], passcode);
  const server = await startServer({ DATABASE_URL: url, PORT: '0', PACE_HOSTS: 'shed.local' });
  try {
    const cookieOf = (response: Response): string => response.headers.get('set-cookie')!.split(';')[0]!;
    const form = (path: string, fields: Record<string, string>): Promise<Response> =>
      fetch(`${server.address}${path}`, {
        method: 'POST',
        body: new URLSearchParams(fields),
        redirect: 'manual',
      });
    const reviewer = cookieOf(await form('/enter', { passcode, name: 'the laptop' }));
    const cookies = new Map<Role | null, string>([[null, '']]);
    for (const role of ROLES) {
      const { token } = (await (
        await fetch(`${server.address}/api/join-codes`, {
          method: 'POST',
          body: JSON.stringify({ role, name: role }),
          headers: { ...JSON_BODY, cookie: reviewer },
        })
      ).json()) as { token: string };
      cookies.set(role, cookieOf(await form('/join', { token })));
    }
    let [asked, opened] = [0, 0];
    for (const name of Object.keys(ROUTES) as RouteName[]) {
      const route: Route = ROUTES[name];
      // whoever leaves is nobody afterwards, and who is put out is missed
      if (['leave', 'putOut'].includes(name) || mayDo(null, route.needs)) continue;
      const of: Record<string, string | readonly string[]> = route.of;
      const params = Object.fromEntries(
        Object.entries(of).map(([part, what]) => [part, typeof what === 'string' ? randomUUID() : what[0]!]),
      );
      for (const [role, cookie] of cookies) {
        if (mayDo(role, route.needs)) continue;
        for (const spell of SPELLINGS) {
          const response = await fetch(
            `${server.address}${spell(`/api${pathOf(route, { params } as never)}`)}`,
            {
              method: route.method,
              headers: { ...UPLOAD, ...JSON_BODY, cookie },
              body: route.method === 'GET' ? undefined : '{}',
              redirect: 'manual',
            },
          );
          await response.arrayBuffer();
          asked++;
          // 401 and 403 keep it closed, 404 is no address at all, 3xx leads to the entry
          if (
            ![401, 403, 404].includes(response.status) &&
            !(response.status >= 300 && response.status < 400)
          )
            opened++;
        }
      }
    }
    say({
      what: 'every address by those who may less, in nine spellings',
      figure: `${asked} asked, ${opened} opened (aim: 0)`,
    });
  } finally {
    await server.stop();
  }
};

const ROUNDS = 60;

/** Two tabs of one record, and one button pressed twice. */
export const twoTabs: Attack = async ({ address }: Target, say) => {
  await someLibrary(address);
  const opened = { name: 'Oru Fold', facts: { batteryMah: 1, batteryWh: 1 }, spots: [] };
  const { id } = (await (await send(address, 'POST', '/kit/device', opened)).json()) as { id: string };
  let lost = 0;
  let base: typeof opened = opened;
  for (let i = 1; i <= ROUNDS; i++) {
    const put = (facts: object): Promise<Response> =>
      send(address, 'PUT', `/kit/device/${id}`, { ...base, facts: { ...base.facts, ...facts }, base });
    await Promise.all([put({ batteryMah: 1000 + i }), put({ batteryWh: 1 + i })]);
    const { devices } = (await (await send(address, 'GET', '/kit')).json()) as {
      devices: (typeof opened & { id: string })[];
    };
    const { name, facts } = devices.find((one) => one.id === id)!;
    if (facts.batteryMah !== 1000 + i || facts.batteryWh !== 1 + i) lost++;
    base = { ...base, name, facts };
  }
  const [review] = (await (await send(address, 'GET', '/reviews')).json()) as { id: string }[];
  const seen = (await (await send(address, 'GET', `/reviews/${review!.id}`)).json()) as { revision: number };
  let twice = 0;
  for (let i = 1; i <= ROUNDS / 6; i++) {
    const request = { id: randomUUID(), revision: seen.revision };
    await Promise.all(
      [1, 2, 3].map(() => send(address, 'POST', `/reviews/${review!.id}/publications`, request)),
    );
    const { publications } = (await (await send(address, 'GET', `/reviews/${review!.id}`)).json()) as {
      publications: unknown[];
    };
    if (publications.length !== i) twice++;
  }
  say({
    what: `${ROUNDS} times two tabs changed other fields of one device at once`,
    figure: `${lost} times one was lost (aim: 0); a button pressed three times published once but for ${twice} times (aim: 0)`,
  });
};

export const TOGETHER: Attack[] = [oddRows, roles, twoTabs];
