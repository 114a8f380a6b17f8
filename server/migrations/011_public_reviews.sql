-- whether others may read what was published of a review, without anything else of the server; off unless somebody switches it on
alter table review add column shown_at timestamptz;
