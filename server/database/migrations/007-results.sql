-- Inputs have a tolerance beside their cuts; nobody stated one so far.
create function pg_temp.with_tolerance(old jsonb) returns jsonb language sql as $$
  select jsonb_set(old, '{inputs}', (
    select coalesce(jsonb_agg('{"tolerance": null}'::jsonb || input order by place), '[]') from jsonb_array_elements(old -> 'inputs') with ordinality as i (input, place)))
$$;
update gate set draft = pg_temp.with_tolerance(draft);
update gate_version set document = pg_temp.with_tolerance(document);

-- Gates of every form have one kind of counts. Those so far are scales on one number, whose bands take no other's records.
update run r set counts = jsonb_build_object(
    'records', c -> 'records', 'caught', c -> 'bands', 'otherwise', 0, 'unplaced', c -> 'unplaced', 'held', c -> 'held', 'contested', 0,
    'alone', c -> 'bands', 'unreadable', c -> 'unreadable', 'outside', 0, 'nearEdge', 0,
    'onEdge', (select coalesce(sum(n::bigint), 0) from jsonb_array_elements_text(c -> 'onCut') n),
    'exceptions', (c ->> 'held')::bigint + (c ->> 'unplaced')::bigint + (select coalesce(sum(n::bigint), 0) from jsonb_array_elements_text(c -> 'onCut') n),
    'inputs', jsonb_build_array(jsonb_build_object('input', v.document -> 'on', 'blank', c -> 'blank', 'unreadable', c -> 'unreadable', 'outside', 0)),
    'edges', (select coalesce(jsonb_agg(jsonb_build_object('of', v.document -> 'on', 'at', cut -> 'at', 'on', c -> 'onCut' -> (place - 1)::int, 'short', 0, 'past', 0) order by place), '[]')
      from jsonb_array_elements(v.document -> 'cuts') with ordinality as k (cut, place)))
  from gate_version v, (select id, counts as c from run) as counted
  where v.gate_id = r.gate_id and v.number = r.gate_version and counted.id = r.id and r.counts is not null;

-- A run keeps the gates that fed its own as well: each with its version, its document and what stood for its inputs.
alter table run add feeding jsonb not null default '[]';

-- Whether a run's as-of date was asked for with it, or was the one that counted everywhere.
alter table run add is_as_of_asked boolean not null default false;

-- A run can have a name beside its number.
alter table run add name text check (name <> '');
