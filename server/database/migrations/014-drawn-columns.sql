-- A column can be drawn from elsewhere: from records of other tables, from all records of its own, or from a gate.
-- What it comes to lies beside the records, with the table's figures.
alter table data_column add column drawn jsonb;

-- The versions of tables and gates that the figures were made of, beyond the table's own.
alter table figure_state add column stands jsonb not null default '{}';

-- A table of groups: which table, and by which of its columns.
alter table data_table add column roll_up jsonb;
