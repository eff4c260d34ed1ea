-- What whoever set a version says of it.
alter table gate_version add column note text not null default '' check (length(note) <= 500);
