import type { Router } from 'express';
import { toCalendar } from '../services/calendar';
import type { Cards } from '../services/cards';
import { authorOf } from './entry';
import { serve, serveRaw } from './serve';

/** Test cards, their day, viewers' requests and cool-downs. */
export function cardRoutes(api: Router, cards: Cards): void {
  serve(api, 'cards', () => cards.list());
  serve(api, 'newCard', ({ body }) => cards.create(body));
  serve(api, 'card', ({ params }) => cards.get(params.id));
  serve(api, 'changeCard', ({ params, body }) => cards.change(params.id, body));
  serve(api, 'deleteCard', ({ params }) => cards.delete(params.id));
  serve(api, 'restoreCard', ({ params }) => cards.restore(params.id));
  serve(api, 'planCard', ({ params, body, response }) => cards.plan(params.id, body, authorOf(response)));
  serve(api, 'cardEvents', ({ params, body }) => cards.happened(params.id, body.events));
  serve(api, 'cardChanges', ({ params, body, response }) =>
    cards.take(params.id, body.changes, authorOf(response)),
  );
  serve(api, 'takeEventBack', ({ params }) => cards.takeBack(params.id, params.event));
  serve(api, 'preflight', ({ params, query }) => cards.preflight(params.id, query.step));
  serveRaw(api, 'calendar', async ({ params, response }) => {
    const card = await cards.get(params.id);
    const calendar = toCalendar(card);
    response
      .type('text/calendar')
      .attachment(`${card.name.replace(/[^\p{L}\p{N}]+/gu, '-')}.ics`)
      .send(calendar);
  });

  serve(api, 'requests', () => cards.requests());
  serve(api, 'request', ({ body }) => cards.request(body));
  serve(api, 'takeRequestBack', ({ params }) => cards.takeRequestBack(params.id));
  serve(api, 'coolDown', ({ body }) => cards.coolDown(body));
}
