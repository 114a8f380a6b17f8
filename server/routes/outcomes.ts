import type { Router } from 'express';
import type { Outcomes } from '../services/outcomes';
import { serve } from './serve';

/** Outcomes, claims, and versions that were noted. */
export function outcomeRoutes(api: Router, outcomes: Outcomes): void {
  serve(api, 'outcomes', () => outcomes.all());
  serve(api, 'noteOutcomes', ({ body }) => outcomes.note(body));
  serve(api, 'deleteOutcome', ({ params }) => outcomes.delete(params.id));
  serve(api, 'restoreOutcome', ({ params }) => outcomes.restore(params.id));
  serve(api, 'deleteClaim', ({ params }) => outcomes.deleteClaim(params.id));
}
