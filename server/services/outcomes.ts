import { newOutcomes, type NewOutcomes, type Outcomes as AllOutcomes } from '@pace-check/contract';
import { outcomeOfRun, samePair } from '@pace-check/core';
import type pg from 'pg';
import { inTransaction } from '../sql/database';
import {
  deleteClaim,
  insertClaims,
  insertOutcomes,
  insertVersions,
  knownOutcomes,
  readOutcomes,
  readSeenRuns,
  setOutcomeDeleted,
} from '../sql/outcomes';
import { idByName, readKit } from '../sql/kit';
import { kitInFull } from './setups';
import { ANYBODY, noteOwn, refuseOthers, type Author } from './author';
import { notFound } from './problem';
import { readableClaims, readableOutcomes } from './readable';

/** How it goes with titles that give no run, what is claimed of them, and versions that were noted. */
export class Outcomes {
  constructor(private readonly pool: pg.Pool) {}

  /** Those that can be read. */
  async all(): Promise<AllOutcomes> {
    const { outcomes, claims, versions } = await readOutcomes(this.pool);
    return {
      outcomes: readableOutcomes(outcomes),
      claims: readableClaims(claims),
      runs: await this.ofRuns(),
      versions,
    };
  }

  /** What was played says how it goes, too: tried with what its setup names. */
  private async ofRuns(): Promise<AllOutcomes['runs']> {
    const { setups } = kitInFull(await readKit(this.pool));
    const wholes = new Map(setups.map(({ id, whole }) => [id, whole]));
    return (await readSeenRuns(this.pool)).map(
      ({ id, name, setup, title, device, setupId, date, firstPlay, stumbles, breaks, ...seen }) => {
        const pairs = (setupId === null ? null : wholes.get(setupId)) ?? [];
        const said = (...keys: string[]): string =>
          pairs.find((pair) => keys.some((key) => samePair(pair.key, key)))?.value ?? '';
        return {
          runId: id,
          name,
          setup,
          title,
          device,
          with: said('emulator', 'layer', 'service'),
          version: said('version'),
          status: outcomeOfRun(seen),
          date,
          firstPlay,
          stumbles,
          breaks,
        };
      },
    );
  }

  /** Notes all that is sent, or nothing. */
  async note(given: NewOutcomes, author: Author = ANYBODY): Promise<AllOutcomes> {
    const { outcomes, claims, versions } = newOutcomes.parse(given);
    await inTransaction(this.pool, async (db) => {
      const ids = [...outcomes, ...claims].map(({ id }) => id);
      const there = await knownOutcomes(db, ids);
      await refuseOthers(db, author, 'A result or claim', there);
      await noteOwn(
        db,
        author,
        ids.filter((id) => !there.includes(id)),
      );
      // one that stands twice in what was sent: its last word counts
      await insertOutcomes(db, [...new Map(outcomes.map((one) => [one.id, one])).values()]);
      await insertClaims(db, [...new Map(claims.map((one) => [one.id, one])).values()]);
      // what was noted is known to the kit, as what was played is
      for (const name of new Set(outcomes.map(({ title }) => title))) await idByName(db, 'title', name);
      await insertVersions(db, versions, author.mayAll);
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
