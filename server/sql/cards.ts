import type {
  Card,
  CardDay,
  CardInput,
  CardRules,
  CardStep,
  CardSummary,
  Preflight,
  RunOnCard,
  StoredDayEvent,
} from '@pace-check/contract';
import type { DayPlan } from '@pace-check/core';
import type { Queryable } from './database';

export interface CardRow {
  id: string;
  name: string;
  policy: CardInput['policy'];
  template: boolean;
  rules: CardRules;
  day: CardDay;
  revision: number;
  plan: DayPlan | null;
  planRevision: number | null;
}

/** A step with ids in the place of names. */
export type StepRow = Omit<CardStep, 'device' | 'title' | 'setup'> & {
  deviceId: string | null;
  titleId: string;
  setupId: string | null;
};

const SELECT_CARD =
  'select id, name, policy, template, rules, day, revision, plan, plan_revision as "planRevision" from card';

/** A card that is not deleted; null where there is none. */
export async function readCard(db: Queryable, id: string, lock = false): Promise<CardRow | null> {
  return (
    (
      await db.query<CardRow>(
        `${SELECT_CARD} where id = $1 and deleted_at is null${lock ? ' for update' : ''}`,
        [id],
      )
    ).rows[0] ?? null
  );
}

export async function insertCard(
  db: Queryable,
  { name, policy, template, rules, day }: CardInput,
): Promise<string> {
  const result = await db.query<{ id: string }>(
    'insert into card (name, policy, template, rules, day) values ($1, $2, $3, $4, $5) returning id',
    [name, policy, template, JSON.stringify(rules), JSON.stringify(day)],
  );
  return result.rows[0]!.id;
}

export async function updateCard(
  db: Queryable,
  id: string,
  { name, policy, template, rules, day }: CardInput,
): Promise<void> {
  await db.query(
    'update card set name = $2, policy = $3, template = $4, rules = $5, day = $6, revision = revision + 1 where id = $1',
    [id, name, policy, template, JSON.stringify(rules), JSON.stringify(day)],
  );
}

/** Makes these the card's steps, in this order; a step that stays keeps its id, and what happened to it. */
export async function replaceSteps(db: Queryable, cardId: string, steps: StepRow[]): Promise<void> {
  await db.query('delete from card_step where card_id = $1', [cardId]);
  for (const [
    position,
    {
      id,
      deviceId,
      titleId,
      setupId,
      minutes,
      repeats,
      attended,
      wanted,
      after,
      conditions,
      requestId,
      ladderId,
      then,
      note,
    },
  ] of steps.entries()) {
    await db.query(
      'insert into card_step (id, card_id, position, device_id, title_id, setup_id, minutes, repeats, attended, wanted, after, conditions, request_id, ladder_id, note, "then") values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14, $15, $16)',
      [
        id,
        cardId,
        position,
        deviceId,
        titleId,
        setupId,
        minutes,
        repeats,
        attended,
        wanted,
        after,
        JSON.stringify(conditions),
        requestId,
        ladderId,
        note,
        JSON.stringify(then),
      ],
    );
  }
}

/** Whether a step of this id stands on another card. */
export async function stepElsewhere(db: Queryable, cardId: string, ids: string[]): Promise<boolean> {
  return (
    (await db.query('select 1 from card_step where id = any($2) and card_id <> $1 limit 1', [cardId, ids]))
      .rowCount! > 0
  );
}

export async function readSteps(db: Queryable, cardId: string): Promise<CardStep[]> {
  const result = await db.query<CardStep>(
    `select card_step.id, device.name as device, title.name as title, setup.name as setup, minutes, repeats, attended, wanted, after, conditions, request_id as "requestId", ladder_id as "ladderId", "then", note
     from card_step join title on title.id = title_id left join device on device.id = device_id left join setup on setup.id = setup_id
     where card_id = $1 order by position`,
    [cardId],
  );
  return result.rows;
}

export async function storePlan(
  db: Queryable,
  id: string,
  plan: DayPlan | null,
  ofRevision: number,
): Promise<void> {
  await db.query('update card set plan = $2, plan_revision = $3 where id = $1', [
    id,
    plan === null ? null : JSON.stringify(plan),
    plan === null ? null : ofRevision,
  ]);
}

export async function setCardDeleted(db: Queryable, id: string, deleted: boolean): Promise<boolean> {
  return (
    (
      await db.query(
        `update card set deleted_at = ${deleted ? 'now()' : 'null'} where id = $1 and deleted_at is ${deleted ? 'null' : 'not null'}`,
        [id],
      )
    ).rowCount === 1
  );
}

export async function listCards(db: Queryable): Promise<CardSummary[]> {
  const result = await db.query<CardSummary>(
    `select card.id, card.name, template, policy, day->>'date' as date, (plan->>'finishMin')::float8 as "finishMin",
       coalesce(jsonb_array_length(plan->'dropped'), 0) as dropped,
       coalesce((select json_agg(name order by first) from (select device.name, min(position) as first from card_step join device on device.id = device_id where card_id = card.id group by device.name) as used), '[]') as devices,
       (select count(*)::int from card_step where card_id = card.id) as steps,
       (select coalesce(sum(repeats), 0)::int from card_step where card_id = card.id) as runs,
       (select count(distinct (event->>'stepId', event->>'repeat'))::int from card_event where card_id = card.id and event->>'kind' = 'ended') as ended
     from card where deleted_at is null order by created_at desc`,
  );
  return result.rows;
}

/** Adds what happened; an event that is there already is left alone. */
export async function insertEvents(db: Queryable, cardId: string, events: StoredDayEvent[]): Promise<void> {
  for (const event of events) {
    await db.query(
      'insert into card_event (id, card_id, step_id, run_id, event) values ($1, $2, $3, $4, $5) on conflict (id) do nothing',
      [
        event.id,
        cardId,
        'stepId' in event ? event.stepId : null,
        event.kind === 'linked' ? event.runId : null,
        JSON.stringify(event),
      ],
    );
  }
}

export async function deleteEvent(db: Queryable, cardId: string, id: string): Promise<boolean> {
  return (
    (await db.query('delete from card_event where card_id = $1 and id = $2', [cardId, id])).rowCount === 1
  );
}

export async function readEvents(db: Queryable, cardId: string): Promise<StoredDayEvent[]> {
  return (
    await db.query<{ event: StoredDayEvent }>(
      'select event from card_event where card_id = $1 order by seq',
      [cardId],
    )
  ).rows.map((row) => row.event);
}

/** Names of the runs that a card's steps are linked to. */
export async function readLinked(db: Queryable, cardId: string): Promise<Card['linked']> {
  return (
    await db.query<Card['linked'][number]>(
      'select distinct run.id as "runId", run.name from card_event join run on run.id = run_id where card_id = $1 and run.deleted_at is null',
      [cardId],
    )
  ).rows;
}

/** The step that a run was made for; null for none. */
export async function readRunOnCard(db: Queryable, runId: string): Promise<RunOnCard | null> {
  const result = await db.query<RunOnCard>(
    `select card.id as "cardId", card.name as "cardName", policy, event->>'stepId' as "stepId", (event->>'repeat')::int as repeat
     from card_event join card on card.id = card_id where run_id = $1 and deleted_at is null order by seq desc limit 1`,
    [runId],
  );
  return result.rows[0] ?? null;
}

/**
 * Steps that a ladder is climbed in take as long as it still takes: one that
 * has begun by so much more or less than was thought, one that is over not at all.
 */
export async function retimeLadderSteps(
  db: Queryable,
  ladderId: string,
  toGoMin: number,
  byMin: number,
): Promise<void> {
  const happened = (kind: 'started' | 'ended'): string =>
    `exists (select from card_event where card_id = card_step.card_id and step_id = card_step.id and event ->> 'kind' = '${kind}')`;
  await db.query(
    `with changed as (
       update card_step set minutes = timed.minutes
       from (select id, least(600, greatest(1, case when ${happened('started')} then minutes + $3 else $2 end)) as minutes
         from card_step where ladder_id = $1 and not ${happened('ended')}) as timed
       where card_step.id = timed.id and card_step.minutes <> timed.minutes returning card_id)
     update card set revision = revision + 1 where id in (select card_id from changed)`,
    [ladderId, toGoMin, byMin],
  );
}

/** Plans of cards that name a device are out of date when it changes its name. */
export async function touchCardsOf(db: Queryable, deviceId: string): Promise<void> {
  await db.query(
    'update card set revision = revision + 1 where id in (select card_id from card_step where device_id = $1)',
    [deviceId],
  );
}

/** The room as it was last told on a card's day, °C; null where nobody did. */
export async function readRoomTold(db: Queryable, cardId: string): Promise<number | null> {
  const { rows } = await db.query<{ room: number }>(
    `select (event->'preflight'->>'roomC')::float8 as room from card_event where card_id = $1 and event->'preflight'->>'roomC' is not null order by seq desc limit 1`,
    [cardId],
  );
  return rows[0]?.room ?? null;
}

/** What was last told of a device before one of its runs, on any card, and of which title; null where nothing was. */
export async function readLastPreflight(
  db: Queryable,
  device: string,
): Promise<{ preflight: Preflight; title: string } | null> {
  const { rows } = await db.query<{ preflight: Preflight; title: string }>(
    `select event->'preflight' as preflight, title.name as title from card_event join card_step on card_step.id = card_event.step_id join device on device.id = device_id join title on title.id = title_id
     where event->>'kind' = 'preflight' and lower(device.name) = lower($1) order by seq desc limit 1`,
    [device],
  );
  return rows[0] ?? null;
}
