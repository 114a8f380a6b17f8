import {
  METHOD_VERSION,
  type Comparable,
  type Figures,
  type SeriesPoint,
  type SpotWarmth,
} from '@pace-check/core';
import type { Queryable } from './database';
import type { StoredSummary } from './runs';

export interface StoredAnalysis {
  figures: Figures;
  summary: StoredSummary;
  series: SeriesPoint[];
}

/** What is kept of an analysis: the same, and what comparing needs of it. */
export interface KeptAnalysis extends StoredAnalysis {
  comparing: Comparable;
}

/** Keeps figures for the revision of the run that they were computed from; those of a later one stay. */
export async function storeAnalysis(
  db: Queryable,
  runId: string,
  revision: number,
  { figures, summary, series, comparing }: KeptAnalysis,
): Promise<void> {
  await db.query(
    `insert into analysis (run_id, method_version, revision, figures, summary, series, comparing) values ($1, $2, $3, $4, $5, $6, $7)
     on conflict (run_id) do update set method_version = excluded.method_version, revision = excluded.revision, figures = excluded.figures,
       summary = excluded.summary, series = excluded.series, comparing = excluded.comparing, computed_at = now() where analysis.revision <= excluded.revision`,
    [
      runId,
      figures.methodVersion,
      revision,
      JSON.stringify(figures),
      JSON.stringify(summary),
      JSON.stringify(series),
      JSON.stringify(comparing),
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

/** Runs of a device that planning looks at: the latest. */
const OWN_RUNS = 200;

/** What a run says for planning. */
export interface OwnRunRow {
  deviceId: string;
  title: string;
  titleFacts: object;
  roomC: number | null;
  batteryWh: number | null;
  peakC: number | null;
  /** The warm-up curve of the hottest spot. */
  fit: SpotWarmth['fit'];
  percentPerHour: number | null;
  seconds: number;
}

/** What the devices' own latest runs say, the earliest first. */
export async function readOwnRuns(db: Queryable, deviceIds: string[]): Promise<OwnRunRow[]> {
  const result = await db.query<OwnRunRow>(
    `select "deviceId", title.name as title, title.facts as "titleFacts", "roomC", "batteryWh", "peakC", fit, "percentPerHour", seconds from (
       select run.id, device_id as "deviceId", title_id, room_c as "roomC", battery_wh as "batteryWh", peak_c as "peakC", nullif(warm_fit, 'null') as fit, percent_per_hour as "percentPerHour", seconds,
         coalesce(started_at, imported_at) as at, row_number() over (partition by device_id order by coalesce(started_at, imported_at) desc, run.id desc) as back
       from run join analysis on analysis.run_id = run.id and method_version = $2
       where device_id = any($1) and deleted_at is null
     ) as own join title on title.id = title_id where back <= $3 order by at, own.id`,
    [deviceIds, METHOD_VERSION, OWN_RUNS],
  );
  return result.rows;
}
