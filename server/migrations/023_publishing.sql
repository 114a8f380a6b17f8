-- What was changed of a review, revision by revision, so that whoever publishes
-- what is not there any more is told; the last ones only.
alter table review add column changes jsonb not null default '[]';
-- The id of the request that a revision was published by: sent twice it is one.
alter table publication add column request_id uuid;
create unique index publication_request on publication (review_id, request_id) where request_id is not null;
