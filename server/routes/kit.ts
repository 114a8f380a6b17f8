import { KIT_KINDS, newRecord, newRefusal, type KitKind, type NewRecord } from '@pace-check/contract';
import express, { type Router } from 'express';
import type pg from 'pg';
import type * as z from 'zod';
import { Kits } from '../services/kit';
import { exportCsv, exportJson, importKit } from '../services/kitFile';
import { notFound } from '../services/problem';
import { idOf, parse, queryText } from './parse';

/** The kit: records, refusals, and files of it. */
export function kitRoutes(api: Router, pool: pg.Pool): void {
  const kits = new Kits(pool);
  const json = express.json({ limit: '1mb' });

  api.get('/kit', async (_request, response) => void response.json(await kits.read()));
  api.get('/kit/file', async (request, response) => {
    const kind = queryText(request.query['kind']);
    if (kind === null)
      response
        .type('application/json')
        .attachment('kit.json')
        .send(await exportJson(pool));
    else
      response
        .type('text/csv')
        .attachment(`kit-${kindOf(kind)}.csv`)
        .send(await exportCsv(pool, kindOf(kind)));
  });
  api.post(
    '/kit/file',
    express.text({ type: () => true, limit: '16mb' }),
    async (request, response) =>
      void response.json(await importKit(pool, typeof request.body === 'string' ? request.body : '')),
  );
  api.post(
    '/kit/refusals',
    json,
    async (request, response) =>
      void response.status(201).json(await kits.refuse(parse(newRefusal, request.body))),
  );
  api.delete('/kit/refusals/:id', async (request, response) => {
    await kits.takeRefusalBack(idOf('refusal', request.params.id));
    response.status(204).end();
  });
  api.post('/kit/:kind', json, async (request, response) => {
    const kind = kindOf(request.params.kind);
    response.status(201).json(await kits.add(kind, parse(recordOf(kind), request.body)));
  });
  api.put('/kit/:kind/:id', json, async (request, response) => {
    const kind = kindOf(request.params.kind);
    await kits.replace(kind, idOf(kind, request.params.id), parse(recordOf(kind), request.body));
    response.status(204).end();
  });
  api.delete('/kit/:kind/:id', async (request, response) => {
    const kind = kindOf(request.params.kind);
    await kits.delete(kind, idOf(kind, request.params.id));
    response.status(204).end();
  });
}

function kindOf(value: string | string[] | undefined): KitKind {
  const kind = KIT_KINDS.find((known) => known === value);
  if (!kind) throw notFound('kind of record');
  return kind;
}

const recordOf = (kind: KitKind): z.ZodType<NewRecord> => newRecord[kind];
