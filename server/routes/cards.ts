import { cardChange, cardInput, dayEvents, newCoolDown, newRequest, planInput } from '@pace-check/contract';
import express, { type Router } from 'express';
import type pg from 'pg';
import { Cards } from '../services/cards';
import { toCalendar } from '../services/calendar';
import type { Runs } from '../services/runs';
import { idOf, parse, queryText } from './parse';

/** Test cards, their day, viewers' requests and cool-downs. */
export function cardRoutes(api: Router, pool: pg.Pool, runs: Runs): void {
  const cards = new Cards(pool, runs);
  const json = express.json({ limit: '4mb' });
  const cardId = (value: string | string[] | undefined): string => idOf('card', value);

  api.get('/cards', async (_request, response) => void response.json(await cards.list()));
  api.post(
    '/cards',
    json,
    async (request, response) =>
      void response.status(201).json(await cards.create(parse(cardInput, request.body))),
  );
  api.get(
    '/cards/:id',
    async (request, response) => void response.json(await cards.get(cardId(request.params.id))),
  );
  api.put(
    '/cards/:id',
    json,
    async (request, response) =>
      void response.json(await cards.change(cardId(request.params.id), parse(cardChange, request.body))),
  );
  api.delete('/cards/:id', async (request, response) => {
    await cards.delete(cardId(request.params.id));
    response.status(204).end();
  });
  api.post('/cards/:id/restore', async (request, response) => {
    await cards.restore(cardId(request.params.id));
    response.status(204).end();
  });
  api.put(
    '/cards/:id/plan',
    json,
    async (request, response) =>
      void response.json(await cards.plan(cardId(request.params.id), parse(planInput, request.body))),
  );
  api.post(
    '/cards/:id/events',
    json,
    async (request, response) =>
      void response.json(
        await cards.happened(cardId(request.params.id), parse(dayEvents, request.body).events),
      ),
  );
  api.delete(
    '/cards/:id/events/:event',
    async (request, response) =>
      void response.json(
        await cards.takeBack(cardId(request.params.id), idOf('note of the day', request.params.event)),
      ),
  );
  api.get(
    '/cards/:id/preflight',
    async (request, response) =>
      void response.json(
        await cards.preflight(
          cardId(request.params.id),
          idOf('step', queryText(request.query['step']) ?? undefined),
        ),
      ),
  );
  api.get('/cards/:id/day.ics', async (request, response) => {
    const card = await cards.get(cardId(request.params.id));
    const calendar = toCalendar(card);
    response
      .type('text/calendar')
      .attachment(`${card.name.replace(/[^\p{L}\p{N}]+/gu, '-')}.ics`)
      .send(calendar);
  });

  api.get('/requests', async (_request, response) => void response.json(await cards.requests()));
  api.post(
    '/requests',
    json,
    async (request, response) =>
      void response.status(201).json(await cards.request(parse(newRequest, request.body))),
  );
  api.delete('/requests/:id', async (request, response) => {
    await cards.takeRequestBack(idOf('request', request.params.id));
    response.status(204).end();
  });

  api.post(
    '/cool-downs',
    json,
    async (request, response) =>
      void response.status(201).json(await cards.coolDown(parse(newCoolDown, request.body))),
  );
}
