-- Versions name the gates that feed them, and are never written again: what a gate was called stays known.
alter table gate add column former_names text[] not null default '{}';
