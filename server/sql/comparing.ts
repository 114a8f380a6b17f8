import { headerOfPreflight, MOST, type Preflight } from '@pace-check/contract';
import {
  METHOD_VERSION,
  onScale,
  peaksOf,
  spreadOf,
  type ArchiveGroup,
  type Caveat,
  type Comparable,
  type Demand,
  groupKey,
  type HeadlineFacts,
  type Lane,
  type LibraryFacts,
  type RunMeasure,
  type RunOfSide,
  type RunPreflight,
  type RunToArrange,
  type TitleKind,
  type Trust,
} from '@pace-check/core';
import type { Queryable } from './database';
import { LIBRARY_COLUMNS } from './library';

/** A run as comparing reads it: what is stated of it, and what comparing needs of its figures. */
export interface ComparingRun extends RunOfSide {
  id: string;
  name: string;
  deviceId: string;
  titleId: string;
  device: string;
  title: string;
  setup: string | null;
  startedAt: string | null;
  preflight: RunPreflight;
  titleKind: TitleKind | null;
  demand: Demand | null;
  chip: string | null;
  /** Device that its device follows. */
  successorOf: string | null;
}

/** The same with what its picture and its trust need. */
export interface ComparedRow extends ComparingRun, LibraryFacts {
  headline: HeadlineFacts;
  lane: Lane;
  /** Those of its own lines; the library knows of more. */
  caveats: Caveat[];
  trust: Trust;
}

interface Row {
  id: string;
  name: string;
  deviceId: string;
  titleId: string;
  device: string;
  title: string;
  setup: string | null;
  startedAt: Date | null;
  target: number | null;
  roomC: number | null;
  batteryWh: number | null;
  conditions: string[];
  preflight: Preflight;
  scene: string | null;
  scenes: string[] | null;
  titleKind: TitleKind | null;
  demand: Demand | null;
  chip: string | null;
  successorOf: string | null;
  comparing: Comparable;
}

const select = (
  more = '',
): string => `select run.id, run.name, run.device_id as "deviceId", run.title_id as "titleId",
  device.name as device, title.name as title, setup.name as setup, coalesce(run.started_at, run.imported_at) as "startedAt", run.target_fps as target, run.room_c as "roomC",
  run.battery_wh as "batteryWh", run.conditions, run.preflight, run.scene, analysis.summary -> 'scenes' as scenes, title.facts ->> 'kind' as "titleKind", title.facts ->> 'demand' as demand,
  device.facts ->> 'chip' as chip, device.facts ->> 'successorOf' as "successorOf", analysis.comparing ${more}
  from run join device on device.id = run.device_id join title on title.id = run.title_id left join setup on setup.id = run.setup_id
  join analysis on analysis.run_id = run.id and analysis.method_version = ${METHOD_VERSION} and analysis.revision = run.revision and analysis.comparing is not null
  where run.deleted_at is null`;

function toRun({
  comparing,
  target,
  roomC,
  batteryWh,
  conditions,
  preflight,
  scene,
  scenes,
  ...row
}: Row): ComparingRun {
  const told = headerOfPreflight(preflight) ?? {};
  return {
    ...row,
    preflight: told,
    startedAt: row.startedAt?.toISOString() ?? null,
    stated: {
      device: row.device,
      title: row.title,
      setup: row.setup,
      scenes: [...new Set([...(scene === null ? [] : [scene]), ...(scenes ?? [])])],
      target,
      roomC,
      batteryWh,
      conditions,
      told: true,
      preflight: told,
    },
    figures: comparing,
  };
}

/** Runs that are not deleted, as far as sides are named by them. */
export async function readNamed(db: Queryable, ids: string[]): Promise<Map<string, RunToArrange>> {
  const { rows } = await db.query<
    Omit<RunToArrange, 'startedAt'> & { startedAt: Date | null; stated: Preflight }
  >(
    `select run.id, device.name as device, title.name as title, setup.name as setup, coalesce(run.started_at, run.imported_at) as "startedAt", run.preflight as stated
     from run join device on device.id = run.device_id join title on title.id = run.title_id left join setup on setup.id = run.setup_id where run.id = any($1) and run.deleted_at is null`,
    [ids],
  );
  return new Map(
    rows.map(({ stated, startedAt, ...run }) => [
      run.id,
      { ...run, startedAt: startedAt?.toISOString() ?? null, preflight: headerOfPreflight(stated) ?? {} },
    ]),
  );
}

/** Runs that have figures of this version of the method, in no order. */
export async function readCompared(db: Queryable, ids: string[]): Promise<ComparedRow[]> {
  const { rows } = await db.query<Row & Omit<ComparedRow, keyof ComparingRun>>(
    `${select(`, analysis.summary -> 'headline' as headline, analysis.summary -> 'lane' as lane, analysis.summary -> 'caveats' as caveats, analysis.summary -> 'trust' as trust, ${LIBRARY_COLUMNS}`)} and run.id = any($1)`,
    [ids],
  );
  return rows.map(({ headline, lane, caveats, trust, repeated, hardScenes, ...row }) => ({
    ...toRun(row),
    headline,
    lane,
    caveats,
    trust,
    repeated,
    hardScenes,
  }));
}

/** Runs that one is looked at among at most. */
const MOST_OTHERS = 2000;

/** Runs of a title, or of titles that ask as much, but for one; the latest. */
export async function readOthers(
  db: Queryable,
  { id, titleId, demand }: { id: string; titleId: string; demand: Demand | null },
  scope: 'title' | 'demand',
): Promise<ComparingRun[]> {
  const of = scope === 'title' ? 'run.title_id = $2' : "title.facts ->> 'demand' = $2";
  const { rows } = await db.query<Row>(
    `${select()} and run.id <> $1 and not run.is_sitting and ${of} order by coalesce(run.started_at, run.imported_at) desc, run.id limit ${MOST_OTHERS}`,
    [id, scope === 'title' ? titleId : demand],
  );
  return rows.map(toRun);
}

/** Splits and warmth of runs, for a close look at a pair. */
export async function readClosely<T>(db: Queryable, ids: string[]): Promise<Map<string, T>> {
  const { rows } = await db.query<{ id: string; splits: unknown; spots: unknown }>(
    "select run_id as id, figures -> 'splits' as splits, figures -> 'warmth' -> 'spots' as spots from analysis where run_id = any($1)",
    [ids],
  );
  return new Map(rows.map(({ id, ...figures }) => [id, figures as T]));
}

/** Values of a run beyond these are none that anybody measured; squares of theirs would break the sums of all. */
const LEAST_VALUE = 1e-6;

/** A room counts as the same within so many °C. */
const ROOM_BAND_C = 4;

/**
 * Repeats: runs of one device, title and setup that were made in the same way,
 * where there are two or more of them, and how far each measure lies apart. A
 * run in the sun is no repeat of one in the shed, one that was read off none of one with frames.
 * In one order wherever the rows lie, so that a restored database says the same to the last digit.
 */
export async function readArchive(db: Queryable): Promise<ArchiveGroup[]> {
  const { rows } = await db.query<{
    device: string;
    title: string;
    setup: string | null;
    measure: RunMeasure;
    n: number;
    squares: number;
  }>(
    `select device.name as device, title.name as title, setup.name as setup, measured.key as measure, count(*)::int as n, var_samp(measured.x order by run.id) * (count(*) - 1) as squares
     from run join device on device.id = run.device_id join title on title.id = run.title_id left join setup on setup.id = run.setup_id
     join analysis on analysis.run_id = run.id and analysis.method_version = $1 and analysis.revision = run.revision
     cross join lateral (select key, case when key = 'peakRise' then (value ->> 'value')::float8 else ln((value ->> 'value')::float8) end as x
       from jsonb_each(analysis.comparing -> 'values') where key <> 'peak' and (value ->> 'value')::numeric between ${LEAST_VALUE} and ${MOST}) as measured
     where run.deleted_at is null and not run.is_sitting and analysis.comparing is not null
     group by device.id, title.id, setup.id, measured.key, ${SAME_WAY}
     having count(*) > 1
     order by measured.key, min(run.id::text)`,
    [METHOD_VERSION],
  );
  // peaks are of the spots that all runs of a group have
  const { rows: read } = await db.query<{
    device: string;
    title: string;
    setup: string | null;
    spots: Comparable['spots'][];
  }>(
    `select device.name as device, title.name as title, setup.name as setup, array_agg(analysis.comparing -> 'spots' order by run.id) as spots
     from run join device on device.id = run.device_id join title on title.id = run.title_id left join setup on setup.id = run.setup_id
     join analysis on analysis.run_id = run.id and analysis.method_version = $1 and analysis.revision = run.revision
     where run.deleted_at is null and not run.is_sitting and jsonb_array_length(analysis.comparing -> 'spots') > 0
     group by device.id, title.id, setup.id, ${SAME_WAY}
     having count(*) > 1
     order by min(run.id::text)`,
    [METHOD_VERSION],
  );
  return [
    ...rows.map(({ device, title, setup, measure, n, squares }) => ({
      key: groupKey({ device, title, setup })!,
      spread: { [measure]: { n, squares } },
    })),
    ...read.map(({ spots, ...of }) => ({
      key: groupKey(of)!,
      spread: {
        peak: spreadOf(
          onScale(
            'peak',
            peaksOf(spots.map((one) => ({ spots: one }))).map((peak) => peak?.c),
          ),
        ),
      },
    })),
  ];
}

/** What is stated of a run and makes it another kind of run. */
const ALIKE: readonly (keyof Preflight)[] = [
  'cap',
  'screen',
  'charging',
  'performanceMode',
  'case',
  'cooler',
  'titleVersion',
  'layer',
  'driver',
  'system',
  'pixels',
];

/** As SQL: what makes runs of one device, title and setup repeats of each other. */
const SAME_WAY = `run.scene, run.target_fps, floor(run.room_c::numeric / ${ROOM_BAND_C}), 'first-play' = any(run.conditions), analysis.comparing ->> 'source',
  coalesce(analysis.comparing ->> 'ended', '') in ('crash', 'would-not-start'), ${ALIKE.map((fact) => `run.preflight ->> '${fact}'`).join(', ')}`;
