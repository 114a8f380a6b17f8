import type { Router } from 'express';
import type { Choices } from '../services/choices';
import type { Ladders } from '../services/ladders';
import { authorOf } from './entry';
import { serve } from './serve';

/** Searches for the highest setting that holds, and choices between what has no order. */
export function ladderRoutes(api: Router, ladders: Ladders, choices: Choices): void {
  serve(api, 'ladders', () => ladders.list());
  serve(api, 'newLadder', ({ body }) => ladders.create(body));
  serve(api, 'newLadders', ({ body }) => ladders.createAll(body));
  serve(api, 'ladder', ({ params }) => ladders.get(params.id));
  serve(api, 'changeLadder', ({ params, body, response }) =>
    ladders.change(params.id, body, authorOf(response)),
  );
  serve(api, 'deleteLadder', ({ params }) => ladders.delete(params.id));
  serve(api, 'restoreLadder', ({ params }) => ladders.restore(params.id));
  serve(api, 'choices', () => choices.list());
  serve(api, 'newChoice', ({ body }) => choices.create(body));
  serve(api, 'choice', ({ params }) => choices.get(params.id));
  serve(api, 'changeChoice', ({ params, body, response }) =>
    choices.change(params.id, body, authorOf(response)),
  );
  serve(api, 'deleteChoice', ({ params }) => choices.delete(params.id));
  serve(api, 'restoreChoice', ({ params }) => choices.restore(params.id));
}
