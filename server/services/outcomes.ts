import { newOutcomes, type NewOutcomes, type Outcomes as AllOutcomes } from '@pace-check/contract';
import type pg from 'pg';
import { inTransaction } from '../sql/database';
import {
  deleteClaim,
  insertClaims,
  insertOutcomes,
  insertVersions,
  readOutcomes,
  setOutcomeDeleted,
} from '../sql/outcomes';
import { notFound } from './problem';

/** How it goes with titles that give no run, what is claimed of them, and versions that were noted. */
export class Outcomes {
  constructor(private readonly pool: pg.Pool) {}

  all(): Promise<AllOutcomes> {
    return readOutcomes(this.pool);
  }

  /** Notes all that is sent, or nothing. */
  async note(given: NewOutcomes): Promise<AllOutcomes> {
    const { outcomes, claims, versions } = newOutcomes.parse(given);
    await inTransaction(this.pool, async (db) => {
      // one that stands twice in what was sent: its last word counts
      await insertOutcomes(db, [...new Map(outcomes.map((one) => [one.id, one])).values()]);
      await insertClaims(db, [...new Map(claims.map((one) => [one.id, one])).values()]);
      await insertVersions(db, versions);
    });
    return this.all();
  }

  async delete(id: string): Promise<void> {
    if (!(await setOutcomeDeleted(this.pool, id, true))) throw notFound('outcome');
  }

  async restore(id: string): Promise<void> {
    if (!(await setOutcomeDeleted(this.pool, id, false))) throw notFound('outcome');
  }

  async deleteClaim(id: string): Promise<void> {
    if (!(await deleteClaim(this.pool, id))) throw notFound('claim');
  }
}
