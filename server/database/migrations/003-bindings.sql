-- A gate knows no table. Which columns stand for its inputs is said apart, once for each table, and a run keeps it as it was.
create table binding (
  gate_id bigint not null references gate on delete cascade,
  table_id bigint not null references data_table,
  version integer not null default 1,
  -- By input: {"column": id}.
  inputs jsonb not null,
  changed_at timestamptz not null default now(),
  primary key (gate_id, table_id)
);
insert into binding (gate_id, table_id, inputs)
  select id, table_id, jsonb_build_object(draft ->> 'on', jsonb_build_object('column', column_id)) from gate;
alter table gate drop column table_id, drop column column_id;

alter table run add binding jsonb;
update run r set binding = jsonb_build_object(v.document ->> 'on', jsonb_build_object('column', r.column_id))
  from gate_version v where v.gate_id = r.gate_id and v.number = r.gate_version;
alter table run alter binding set not null, drop column column_id;
