-- What is removed can be taken back for a while. Its name is free meanwhile.
alter table data_table add removed_at timestamptz;
alter table gate add removed_at timestamptz;
alter table run add removed_at timestamptz;
drop index data_table_name;
create unique index data_table_name on data_table (lower(name)) where removed_at is null;
drop index gate_name;
create unique index gate_name on gate (lower(draft ->> 'name')) where removed_at is null;
-- The demo is loaded once: whoever removes it does not get it back at the next start.
alter table workspace add is_demo_loaded boolean not null default false;
update workspace set is_demo_loaded = exists (select from gate);
