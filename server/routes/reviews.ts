import type { Router } from 'express';
import type { Reviews } from '../services/reviews';
import { serve, serveRaw } from './serve';
import { sendZip } from './zip';

/** Reviews, what was published of them, their pictures and packs. */
export function reviewRoutes(api: Router, reviews: Reviews): void {
  serve(api, 'reviews', () => reviews.list());
  serve(api, 'newReview', ({ body }) => reviews.create(body));
  serve(api, 'review', ({ params }) => reviews.get(params.id));
  serve(api, 'changeReview', ({ params, body }) => reviews.change(params.id, body));
  serve(api, 'deleteReview', ({ params }) => reviews.delete(params.id));
  serve(api, 'restoreReview', ({ params }) => reviews.restore(params.id));
  serve(api, 'publishReview', ({ params, body }) => reviews.publish(params.id, body));
  serve(api, 'showReview', ({ params, body }) => reviews.show(params.id, body.shown));
  serveRaw(api, 'reviewChart', async ({ params, query, response }) => {
    const { type, bytes } = await reviews.chart(params.id, query);
    response.type(type).set('cache-control', 'no-store').send(Buffer.from(bytes));
  });
  serve(api, 'reviewVideo', ({ params }) => reviews.video(params.id));
  serveRaw(api, 'reviewOverlay', async ({ params, query, response }) => {
    response
      .type('image/svg+xml')
      .set('cache-control', 'no-store')
      .send(await reviews.overlay(params.id, query.at));
  });
  serveRaw(api, 'reviewPack', async ({ params, query, response }) => {
    const gone = new AbortController();
    response.on('close', () => gone.abort());
    const { fileName, files } = await reviews.pack(params.id, {
      job: query.job ?? null,
      overlay: query.overlay === 'yes',
      signal: gone.signal,
    });
    response.type('application/zip').attachment(fileName);
    await sendZip(response, files);
  });
}
