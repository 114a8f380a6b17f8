import { METHOD_VERSION, type Figures, type SeriesPoint } from '@pace-check/core';
import type { Queryable } from './database';
import type { StoredSummary } from './runs';

export interface StoredAnalysis {
  figures: Figures;
  summary: StoredSummary;
  series: SeriesPoint[];
}

/** Keeps figures for the revision of the run that they were computed from; those of a later one stay. */
export async function storeAnalysis(
  db: Queryable,
  runId: string,
  revision: number,
  { figures, summary, series }: StoredAnalysis,
): Promise<void> {
  await db.query(
    `insert into analysis (run_id, method_version, revision, figures, summary, series) values ($1, $2, $3, $4, $5, $6)
     on conflict (run_id) do update set method_version = excluded.method_version, revision = excluded.revision, figures = excluded.figures,
       summary = excluded.summary, series = excluded.series, computed_at = now() where analysis.revision <= excluded.revision`,
    [
      runId,
      figures.methodVersion,
      revision,
      JSON.stringify(figures),
      JSON.stringify(summary),
      JSON.stringify(series),
    ],
  );
}

/** The analysis by this version of the method, of the run as it stands; null where there is none yet. */
export async function readAnalysis(
  db: Queryable,
  runId: string,
  methodVersion: number,
): Promise<StoredAnalysis | null> {
  return (
    (
      await db.query<StoredAnalysis>(
        'select figures, summary, series from analysis join run on run.id = run_id and run.revision = analysis.revision where run_id = $1 and method_version = $2',
        [runId, methodVersion],
      )
    ).rows[0] ?? null
  );
}

/** What a device's own runs say, for planning. */
export interface OwnRunRow {
  title: string;
  titleFacts: object;
  roomC: number | null;
  batteryWh: number | null;
  warmth: Figures['warmth'];
  percentPerHour: number | null;
  seconds: number;
}

export async function readOwnRuns(db: Queryable, deviceId: string): Promise<OwnRunRow[]> {
  const result = await db.query<OwnRunRow>(
    `select title.name as title, title.facts as "titleFacts", run.room_c as "roomC", run.battery_wh as "batteryWh", figures->'warmth' as warmth,
       (figures->'drain'->>'percentPerHour')::float8 as "percentPerHour", (figures->'frames'->>'seconds')::float8 as seconds
     from run join analysis on analysis.run_id = run.id and method_version = $2 join title on title.id = run.title_id
     where device_id = $1 and deleted_at is null order by coalesce(started_at, imported_at)`,
    [deviceId, METHOD_VERSION],
  );
  return result.rows;
}
