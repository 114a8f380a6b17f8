import type { RunsQuery } from '@pace-check/contract';
import type { LibraryFacts } from '@pace-check/core';
import type { Queryable } from './database';
import { LIBRARY_COLUMNS } from './library';
import { isoTimes, selectRun, type NamedRun, type StoredSummary } from './runs';

/** A run of the list, with its summary where it is of this version of the method. */
export interface ListedRun extends LibraryFacts {
  run: NamedRun;
  summary: StoredSummary | null;
  pictures: number;
}

/** How a list may be ordered: by what, and whether the greatest comes first. What is not known comes last. */
const ORDERS: Record<RunsQuery['sort'], { by: string; descending: boolean }> = {
  latest: { by: 'coalesce(started_at, imported_at)', descending: true },
  name: { by: 'lower(run.name)', descending: false },
  pace: { by: 'coalesce(analysis.average_fps, -1)', descending: true },
  warmth: { by: 'coalesce(analysis.peak_c, -1000)', descending: true },
};

const FROM = `left join analysis on analysis.run_id = run.id and analysis.method_version = $1 and analysis.revision = run.revision`;

/**
 * A page of the runs that are not deleted, with the summary where it is of
 * this version of the method. It goes on behind the run that the last page
 * ended with, so that runs that come in meanwhile move nothing.
 */
export async function listRuns(
  db: Queryable,
  methodVersion: number,
  { q, device, title, stamina, sort, after, limit }: RunsQuery,
): Promise<ListedRun[]> {
  const values: unknown[] = [methodVersion];
  const given = (value: unknown): string => `$${values.push(value)}`;
  const where = ['deleted_at is null'];
  for (const word of q.split(/\s+/).filter(Boolean))
    where.push(
      `concat_ws(' ', run.name, device.name, title.name, setup.name) ilike ${given(`%${word.replace(/[\\%_]/g, '\\$&')}%`)}`,
    );
  if (device !== null) where.push(`lower(device.name) = lower(${given(device)})`);
  if (title !== null) where.push(`lower(title.name) = lower(${given(title)})`);
  // "eases or fades" is found by either
  if (stamina !== null) where.push(`${given(stamina)} = any(string_to_array(analysis.stamina, ' or '))`);
  const { by, descending } = ORDERS[sort];
  if (after !== null)
    where.push(
      `(${by}, run.id) ${descending ? '<' : '>'} (select ${by}, run.id from run ${FROM} where run.id = ${given(after)})`,
    );
  const direction = descending ? 'desc' : 'asc';
  const { rows } = await db.query<NamedRun & Omit<ListedRun, 'run'>>(
    `${selectRun(`, analysis.summary, ${LIBRARY_COLUMNS}, (select count(*)::int from picture where picture.run_id = run.id) as pictures`)} ${FROM}
     where ${where.join(' and ')} order by ${by} ${direction}, run.id ${direction} limit ${given(limit)}`,
    values,
  );
  return rows.map(({ summary, repeated, hardScenes, pictures, ...run }) => ({
    run: isoTimes(run),
    summary,
    repeated,
    hardScenes,
    pictures,
  }));
}
