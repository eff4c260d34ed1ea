-- A run is made by a job: it is under way, then done, or failed with its reason.
alter table run add state text not null default 'done' check (state in ('under way', 'done', 'failed'));
alter table run add problem text;
alter table run alter counts drop not null;
