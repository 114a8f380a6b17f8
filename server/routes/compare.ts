import type { Router } from 'express';
import type pg from 'pg';
import { Comparisons } from '../services/comparisons';
import { Standings } from '../services/standings';
import type { Runs } from '../services/runs';
import { serve } from './serve';

/** Comparisons, and a run among the others. */
export function compareRoutes(api: Router, pool: pg.Pool, runs: Runs): void {
  const comparisons = new Comparisons(pool, runs);
  const standings = new Standings(pool, runs);
  serve(api, 'comparisons', () => comparisons.list());
  serve(api, 'newComparison', ({ body }) => comparisons.create(body));
  serve(api, 'comparison', ({ params }) => comparisons.get(params.id));
  serve(api, 'changeComparison', ({ params, body }) => comparisons.change(params.id, body));
  serve(api, 'deleteComparison', ({ params }) => comparisons.delete(params.id));
  serve(api, 'restoreComparison', ({ params }) => comparisons.restore(params.id));
  serve(api, 'comparisonsOfRun', ({ params }) => comparisons.ofRun(params.id));
  serve(api, 'against', ({ params }) => standings.against(params.id));
  serve(api, 'standing', ({ params, query }) => standings.standing(params.id, query.scope));
  serve(api, 'limits', ({ params }) => standings.limits(params.id));
  serve(api, 'spread', () => comparisons.spread());
  serve(api, 'addWeakValue', ({ body }) => comparisons.addWeakValue(body));
  serve(api, 'deleteWeakValue', ({ params }) => comparisons.deleteWeakValue(params.id));
}
