-- How the values of a table's columns are spread, reckoned once for each state of the table.
create table table_profile (
  table_id bigint primary key references data_table on delete cascade,
  table_version integer not null,
  profile jsonb not null
);
