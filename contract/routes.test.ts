import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { pathOf, requestOf, ROUTES, type Route } from './routes';
import { BODIES } from './routeSchemas';
import { routesTable } from './routesTable';

const ID = '22222222-2222-4222-8222-222222222222';

describe('the table of routes', () => {
  it('stands in the documentation as it is (npm run schema writes it)', () =>
    expect(readFileSync(join(__dirname, '..', 'docs', 'formats.md'), 'utf8')).toContain(
      `\n${routesTable()}\n`,
    ));

  it('has each address once', () => {
    const all = Object.values<Route>(ROUTES).map(
      ({ method, path }) => `${method} ${path.replace(/:\w+/g, ':')}`,
    );
    expect(new Set(all).size).toBe(all.length);
  });

  it('says of every part of a path what it names', () => {
    for (const { path, of } of Object.values<Route>(ROUTES))
      expect(Object.keys(of).sort()).toEqual([...path.matchAll(/:(\w+)/g)].map(([, part]) => part).sort());
  });

  it('has a schema only where something is sent', () => {
    for (const name of Object.keys(BODIES) as (keyof typeof BODIES)[])
      expect(['POST', 'PUT', 'PATCH']).toContain(ROUTES[name].method);
  });
});

describe('a request', () => {
  it('has its path filled in, whatever stands in a part', () => {
    expect(pathOf(ROUTES.deleteEntry, { params: { id: ID, entry: 'a/b?c' } })).toBe(
      `/runs/${ID}/entries/a%2Fb%3Fc`,
    );
    expect(pathOf(ROUTES.calendar, { params: { id: ID } })).toBe(`/cards/${ID}/day.ics`);
  });
  it('leaves out of the query what is not said', () =>
    expect(pathOf(ROUTES.runs, { query: { q: 'velm 5', device: null, title: '', limit: 2 } })).toBe(
      '/runs?q=velm+5&limit=2',
    ));
  it('has a body only where one is given, and says what it is', () => {
    expect(requestOf(ROUTES.kit, {})).toEqual({ path: '/api/kit', init: { method: 'GET', headers: {} } });
    const sent = requestOf(ROUTES.addSource, {
      params: { id: ID },
      body: { name: 'Logger', kind: 'handset' },
    });
    expect(sent).toMatchObject({
      path: `/api/bench/${ID}/sources`,
      init: { method: 'POST', headers: { 'content-type': 'application/json' } },
    });
    expect(JSON.parse(sent.init.body!)).toEqual({ name: 'Logger', kind: 'handset' });
  });
});
