import type { NewRequest, ViewerRequest } from '@pace-check/contract';
import type { Queryable } from './database';
import { idByName } from './kit';

const SELECT = `select viewer_request.id, title.name as title, device.name as device, sources,
  (select sum((one->>'asked')::int)::int from jsonb_array_elements(sources) as one) as asked,
  case when run.id is null then null else json_build_object('id', run.id, 'name', run.name) end as "answeredBy",
  (select json_build_object('id', card.id, 'name', card.name) from card_step join card on card.id = card_id where request_id = viewer_request.id and card.deleted_at is null limit 1) as "onCard"
  from viewer_request join title on title.id = viewer_request.title_id left join device on device.id = viewer_request.device_id left join run on run.id = answered_by and run.deleted_at is null`;

/** Those without an answer first, the most wanted at the top. */
export async function listRequests(db: Queryable): Promise<ViewerRequest[]> {
  return (
    await db.query<ViewerRequest>(`${SELECT} order by run.id is not null, asked desc, lower(title.name)`)
  ).rows;
}

/** Adds a wish, to the same one where it is there. */
export async function addRequest(db: Queryable, { title, device, asked, source }: NewRequest): Promise<void> {
  await db.query(
    `insert into viewer_request (title_id, device_id, sources) values ($1, $2, $3)
     on conflict (title_id, device_id) do update set sources = viewer_request.sources || excluded.sources`,
    [
      await idByName(db, 'title', title),
      device === null ? null : await idByName(db, 'device', device),
      JSON.stringify([{ source, asked }]),
    ],
  );
}

export async function deleteRequest(db: Queryable, id: string): Promise<boolean> {
  return (await db.query('delete from viewer_request where id = $1', [id])).rowCount === 1;
}

/** The wishes that a step stands for are answered by its run. */
export async function answerRequest(db: Queryable, stepId: string, runId: string | null): Promise<void> {
  await db.query(
    'update viewer_request set answered_by = $2 where id = (select request_id from card_step where id = $1)',
    [stepId, runId],
  );
}
