-- Whoever got no answer to a change asks again under the same key, and it is still made once.
alter table table_change add column key text;
create unique index table_change_key on table_change (table_id, key);
