-- What is pointed out among what a gate gives: an ordered list, kept beside the gate and not in its versions.
alter table gate add column highlights jsonb not null default '[]', add column highlights_version integer not null default 0;
