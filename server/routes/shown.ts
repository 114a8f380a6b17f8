import express, { type Router } from 'express';
import type { Reviews } from '../services/reviews';
import { notFound } from '../services/problem';
import { idOf } from './parse';

/** A proxy may hand a page on for so long, s; browsers ask each time whether it is still that: a page that was switched off is gone. */
const FRESH_S = 60;

/** What was published, for others to read: nothing else of the server is reached from there. */
export function shownPages(reviews: Reviews): Router {
  const router = express.Router();
  router.get(['/r/:id', '/r/:id/:revision'], async (request, response) => {
    const id = idOf('page', request.params['id']);
    const asked = request.params['revision'];
    if (asked !== undefined && !/^[1-9]\d{0,8}$/.test(String(asked))) throw notFound('page');
    const html = await reviews.shown(id, asked === undefined ? null : Number(asked));
    response
      .set({
        // no script, nothing from elsewhere: its fonts and pictures are inside it
        'content-security-policy':
          "default-src 'none'; style-src 'unsafe-inline'; font-src data:; img-src data:; frame-ancestors 'none'; base-uri 'none'; form-action 'none'",
        'cache-control': `public, max-age=0, s-maxage=${FRESH_S}, must-revalidate`,
      })
      .type('html')
      .send(html);
  });
  return router;
}
