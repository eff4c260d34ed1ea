-- People whom exceptions wait for, by the names that they go by.
create table reviewer (
  id integer generated always as identity primary key,
  name text not null unique
);

-- Whom an exception waits for, where somebody said so. It belongs to gate, table and record, whatever becomes of the exception, until another is named.
create table review_handed (
  id bigint generated always as identity primary key,
  act_id bigint not null references review_act on delete cascade,
  gate_id bigint not null references gate on delete cascade,
  table_id bigint not null references data_table on delete cascade,
  who text not null,
  -- Null where it was said that it waits for nobody in particular.
  reviewer_id integer references reviewer,
  ended_at timestamptz,
  -- The act that put another in its place; null where it was taken back.
  ended_by bigint references review_act on delete cascade
);
create unique index review_handed_live on review_handed (gate_id, table_id, who) where ended_at is null;
create index review_handed_act on review_handed (act_id);
create index review_handed_ended_by on review_handed (ended_by);
