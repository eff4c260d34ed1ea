-- The version of the table that a correction in the review made, so that both are taken back together; null where nothing was corrected.
alter table review_act add column table_version integer;
