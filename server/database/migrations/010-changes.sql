-- Data changes, and nothing of what it was is lost: a row holds from one version of its table on, until before another.
do $$
declare
  one record;
begin
  for one in select id from data_table loop
    execute format('alter table records.t%s add column since integer not null default 1, add column until integer', one.id);
    execute format('alter table records.t%1$s drop constraint t%1$s_pkey, add primary key (record, since)', one.id);
  end loop;
end $$;

-- So do columns. What is said of one, its name, unit and type, is as it is now.
alter table data_column add since integer not null default 1, add until integer;
alter table data_column drop constraint data_column_table_id_place_key, drop constraint data_column_table_id_name_key;
create unique index data_column_name on data_column (table_id, name) where until is null;
-- What is expected of its values, in canonical text; either end may be open.
alter table data_column add expected_low text, add expected_high text;

-- Each change: what was done, when, and what it took back where it is an undoing.
create table table_change (
  table_id bigint not null references data_table on delete cascade,
  version integer not null,
  kind text not null,
  -- As the contract says, without the values: those lie in the rows.
  detail jsonb not null,
  undoes integer,
  changed_at timestamptz not null default now(),
  primary key (table_id, version)
);

-- Profiles say more now, and are reckoned anew.
delete from table_profile;
