import { KIT_KINDS, newRecord, type KitKind, type NewRecord } from '@pace-check/contract';
import express, { type Router } from 'express';
import type pg from 'pg';
import type * as z from 'zod';
import { Kits } from '../services/kit';
import { exportCsv, exportJson, importKit } from '../services/kitFile';
import { notFound } from '../services/problem';
import { parse, queryText } from './parse';
import { serve, serveRaw } from './serve';

/** The kit: records, refusals, and files of it. */
export function kitRoutes(api: Router, pool: pg.Pool, onStale: () => void): void {
  const kits = new Kits(pool, onStale);

  serve(api, 'kit', () => kits.read());
  serveRaw(api, 'kitFile', async ({ request, response }) => {
    const asked = queryText(request.query['kind']);
    if (asked === null)
      response
        .type('application/json')
        .attachment('kit.json')
        .send(await exportJson(pool));
    else
      response
        .type('text/csv')
        .attachment(`kit-${kindOf(asked)}.csv`)
        .send(await exportCsv(pool, kindOf(asked)));
  });
  serveRaw(
    api,
    'importKit',
    async ({ request, response }) => {
      response.json(await importKit(pool, typeof request.body === 'string' ? request.body : ''));
      onStale();
    },
    express.text({ type: () => true, limit: '16mb' }),
  );
  serve(api, 'refuse', ({ body }) => kits.refuse(body));
  serve(api, 'takeRefusalBack', ({ params }) => kits.takeRefusalBack(params.id));
  serve(api, 'addRecord', ({ params, body }) => {
    const kind = kindOf(params.kind);
    return kits.add(kind, parse(recordOf(kind), body));
  });
  serve(api, 'replaceRecord', ({ params, body }) => {
    const kind = kindOf(params.kind);
    const { base, ...record } = (body ?? {}) as { base?: unknown };
    const opened = base === undefined ? null : parse(recordOf(kind), base);
    return kits.replace(kind, params.id, parse(recordOf(kind), record), opened);
  });
  serve(api, 'deleteRecord', ({ params }) => kits.delete(kindOf(params.kind), params.id));
}

function kindOf(value: string): KitKind {
  const kind = KIT_KINDS.find((known) => known === value);
  if (!kind) throw notFound('kind of record');
  return kind;
}

const recordOf = (kind: KitKind): z.ZodType<NewRecord> => newRecord[kind];
