import type { Router } from 'express';
import type pg from 'pg';
import { Comparisons } from '../services/comparisons';
import { Reviews } from '../services/reviews';
import type { Runs } from '../services/runs';
import { serve, serveRaw } from './serve';
import { sendZip } from './zip';

/** Reviews, what was published of them, and their packs. */
export function reviewRoutes(api: Router, pool: pg.Pool, runs: Runs): void {
  const reviews = new Reviews(pool, runs, new Comparisons(pool, runs));
  serve(api, 'reviews', () => reviews.list());
  serve(api, 'newReview', ({ body }) => reviews.create(body));
  serve(api, 'review', ({ params }) => reviews.get(params.id));
  serve(api, 'changeReview', ({ params, body }) => reviews.change(params.id, body));
  serve(api, 'deleteReview', ({ params }) => reviews.delete(params.id));
  serve(api, 'restoreReview', ({ params }) => reviews.restore(params.id));
  serve(api, 'publishReview', ({ params }) => reviews.publish(params.id));
  serveRaw(api, 'reviewPack', async ({ params, response }) => {
    const { fileName, files } = await reviews.pack(params.id);
    response.type('application/zip').attachment(fileName);
    await sendZip(response, files);
  });
}
