-- What a gate says to each record, as a sentence with names in braces; kept beside the gate and not in its versions.
alter table gate add column sentence text not null default '', add column sentence_version integer not null default 0;

-- Addresses that somebody outside is given: of one record's slip, or of a page to try a gate on. Whoever knows the token may look.
create table link (
  id bigint generated always as identity primary key,
  -- 160 bits by chance: nobody guesses it, and it says nothing of any other.
  token text not null unique,
  gate_id bigint not null references gate on delete cascade,
  gate_version integer not null,
  -- Of a slip; null where the gate is to be tried.
  run_id bigint references run on delete cascade,
  record integer,
  made_at timestamptz not null default now(),
  -- The last day on which it leads anywhere.
  ends_on date not null,
  withdrawn_at timestamptz,
  check ((run_id is null) = (record is null))
);
create unique index link_of_slip on link (run_id, record) where run_id is not null and withdrawn_at is null;
create index link_of_gate on link (gate_id) where run_id is null;
