-- What became of each record of a run: a byte at the place of its number, which is a place among `landings`, or 255 where the run has
-- no such record. A run whose landings are more than that, or that is older than this, has none: then its relation is read.
create table run_landings (
  run_id bigint primary key references run on delete cascade,
  codes bytea not null,
  landings jsonb not null
);
-- Read whole, and often: packing it would only cost time.
alter table run_landings alter codes set storage external;
