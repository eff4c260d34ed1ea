-- What full marks are in a column, and whether it tells who the record is.
alter table data_column add full_marks numeric check (full_marks > 0);
alter table data_column add is_identity boolean not null default false;
update data_column set full_marks = substring(unit from '^out of ([0-9.]+)$')::numeric, unit = '' where unit ~ '^out of [1-9][0-9]{0,8}$';
-- So far the first column stood for that.
update data_column c set is_identity = true where place = 0;
