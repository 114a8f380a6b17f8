import type { LibraryFacts } from '@pace-check/core';
import type { Queryable } from './database';

/**
 * What the library knows of a run beside its own lines, as columns of a query
 * on `run` and `title`. It is asked for whenever a run is read, so that a run
 * of its kind that comes or goes needs nothing computed anew.
 */
export const LIBRARY_COLUMNS = `exists (select from run other left join recording going on going.run_id = other.id
    where other.device_id = run.device_id and other.title_id = run.title_id and other.setup_id is not distinct from run.setup_id
      and other.id <> run.id and not other.is_sitting and other.deleted_at is null and coalesce(going.status, 'ended') = 'ended') as repeated,
  array(select known.scene ->> 'name' from jsonb_array_elements(coalesce(title.facts -> 'scenes', '[]')) as known (scene) where known.scene ->> 'weight' = 'hard') as "hardScenes"`;

export async function readLibraryFacts(db: Queryable, runId: string): Promise<LibraryFacts> {
  return (
    await db.query<LibraryFacts>(
      `select ${LIBRARY_COLUMNS} from run join title on title.id = run.title_id where run.id = $1`,
      [runId],
    )
  ).rows[0]!;
}
