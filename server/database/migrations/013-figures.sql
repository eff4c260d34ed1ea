-- A figure is a column with an expression. What it comes to lies beside the records, all figures of a table in one relation
-- records.g<table>_<generation>, made anew where it no longer is what it would come to.
alter table data_column add column feel text;
alter table data_table add column sets jsonb not null default '[]';

create table figure_state (
  table_id bigint primary key references data_table on delete cascade,
  generation integer not null,
  table_version integer not null,
  -- The day that they were computed for; null where they hang on none.
  as_of date,
  -- What was computed: ids and expressions, and the sets that these name.
  definitions jsonb not null
);

-- No generation is ever given twice.
create sequence figure_generation as integer;

alter table table_profile add column figures integer;

-- What a run's figures were when it was made.
alter table run add column figures jsonb not null default '[]';
