-- What runs of a gate must come to, on one table or on any. It is no part of a version: what is expected may change, and what was run does not.
create table expectation (
  id bigint generated always as identity primary key,
  gate_id bigint not null references gate on delete cascade,
  table_id bigint references data_table on delete cascade,
  document jsonb not null,
  added_at timestamptz not null default now()
);
create index expectation_gate on expectation (gate_id);
