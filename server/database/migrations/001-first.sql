-- Tables of the user lie in a schema of their own, one relation each: records.t<id> with, for each
-- column, c<column id> (the typed value), and written: the texts as written, by column id, where they differ.
create schema records;

create table workspace (
  only_one boolean primary key default true check (only_one),
  as_of date not null default current_date
);
insert into workspace default values;

create table data_table (
  id bigint generated always as identity primary key,
  name text not null check (name <> ''),
  version integer not null default 1,
  records bigint not null default 0,
  file_name text not null,
  file_format jsonb not null,
  imported_at timestamptz not null default now()
);
create unique index data_table_name on data_table (lower(name));

create table data_column (
  id bigint generated always as identity primary key,
  table_id bigint not null references data_table on delete cascade,
  place integer not null,
  header text not null,
  name text not null,
  unit text not null,
  type text not null check (type in ('number', 'percent', 'date', 'text', 'boolean')),
  blank bigint not null default 0,
  unreadable bigint not null default 0,
  unique (table_id, place),
  unique (table_id, name)
);

create table gate (
  id bigint generated always as identity primary key,
  draft jsonb not null,
  draft_version integer not null default 1,
  table_id bigint not null references data_table,
  column_id bigint not null references data_column,
  changed_at timestamptz not null default now()
);
create unique index gate_name on gate (lower(draft ->> 'name'));

create table gate_version (
  gate_id bigint not null references gate,
  number integer not null check (number > 0),
  document jsonb not null,
  set_at timestamptz not null default now(),
  primary key (gate_id, number)
);

create table run (
  id bigint generated always as identity primary key,
  gate_id bigint not null,
  number integer not null check (number > 0),
  gate_version integer not null,
  table_id bigint not null references data_table,
  table_version integer not null,
  column_id bigint not null references data_column,
  as_of date not null,
  counts jsonb not null,
  kept_at timestamptz not null default now(),
  foreign key (gate_id, gate_version) references gate_version,
  unique (gate_id, number)
);

-- What each record got, and the value it got it for: a run says the same whatever becomes of the table.
create table run_record (
  run_id bigint not null references run on delete cascade,
  record bigint not null,
  status smallint not null,
  band smallint,
  cut smallint,
  value numeric,
  unreadable text,
  primary key (run_id, record)
);
