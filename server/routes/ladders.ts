import type { Router } from 'express';
import type { Ladders } from '../services/ladders';
import { serve } from './serve';

/** Searches for the highest setting that holds. */
export function ladderRoutes(api: Router, ladders: Ladders): void {
  serve(api, 'ladders', () => ladders.list());
  serve(api, 'newLadder', ({ body }) => ladders.create(body));
  serve(api, 'ladder', ({ params }) => ladders.get(params.id));
  serve(api, 'changeLadder', ({ params, body }) => ladders.change(params.id, body));
  serve(api, 'deleteLadder', ({ params }) => ladders.delete(params.id));
  serve(api, 'restoreLadder', ({ params }) => ladders.restore(params.id));
}
