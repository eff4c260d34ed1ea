-- Exceptions of runs: the records that someone should look at. They are found once of a run, and anew where what they are found by has changed.
create table exception (
  run_id bigint not null references run on delete cascade,
  record integer not null,
  -- Who the record is, by its table's identity columns.
  who text not null,
  -- The place of its kind among all kinds.
  kind smallint not null,
  reasons jsonb not null,
  -- By reason what it shares with records that are alike.
  keys jsonb not null,
  -- The inputs whose values the reasons speak of.
  about jsonb not null,
  -- The label, the rule and the values as the run saw them.
  basis jsonb not null,
  primary key (run_id, record)
);
create index exception_kind on exception (run_id, kind, record);
create index exception_who on exception (run_id, who);

-- What the exceptions of a run were found by; null where nobody has looked for them yet.
alter table run add column exceptions_by jsonb;

-- What somebody did in one step, to one exception or to many that are alike.
create table review_act (
  id bigint generated always as identity primary key,
  kind text not null,
  note text not null,
  made_by text not null,
  made_at timestamptz not null default now(),
  taken_back_at timestamptz
);

-- What became of an exception. It belongs to gate, table and record, and holds until what it was made for has changed, or another takes its place.
create table review_mark (
  id bigint generated always as identity primary key,
  act_id bigint not null references review_act on delete cascade,
  gate_id bigint not null references gate on delete cascade,
  table_id bigint not null references data_table on delete cascade,
  run_id bigint references run on delete set null,
  who text not null,
  record integer not null,
  kind text not null,
  -- What it was overridden with, an outcome each; null where it was not.
  outcomes jsonb,
  keys jsonb not null,
  basis jsonb not null,
  ended_at timestamptz,
  -- The act that put another in its place; null where it was taken back.
  ended_by bigint references review_act on delete cascade
);
create unique index review_mark_live on review_mark (gate_id, table_id, who) where ended_at is null;
create index review_mark_act on review_mark (act_id);
create index review_mark_ended_by on review_mark (ended_by);
