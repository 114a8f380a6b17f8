import type { Router } from 'express';
import type { Outcomes } from '../services/outcomes';
import type { Synthetics } from '../services/synthetic';
import { authorOf } from './entry';
import { serve } from './serve';

/** Outcomes, claims, versions that were noted, and scores of synthetic benchmarks: results that are no runs. */
export function outcomeRoutes(api: Router, outcomes: Outcomes, synthetics: Synthetics): void {
  serve(api, 'outcomes', () => outcomes.all());
  serve(api, 'noteOutcomes', ({ body, response }) => outcomes.note(body, authorOf(response)));
  serve(api, 'deleteOutcome', ({ params }) => outcomes.delete(params.id));
  serve(api, 'restoreOutcome', ({ params }) => outcomes.restore(params.id));
  serve(api, 'synthetic', () => synthetics.list());
  serve(api, 'newSynthetic', ({ body }) => synthetics.create(body));
  serve(api, 'deleteSynthetic', ({ params }) => synthetics.setDeleted(params.id, true));
  serve(api, 'restoreSynthetic', ({ params }) => synthetics.setDeleted(params.id, false));
  serve(api, 'deleteClaim', ({ params }) => outcomes.deleteClaim(params.id));
}
