-- What was changed since a version is found without reading all of a table.
do $$
declare stored text;
begin
  for stored in select c.relname from pg_class c where c.relnamespace = 'records'::regnamespace and c.relkind = 'r' and c.relname ~ '^[tw]\d+$' loop
    execute format('create index on records.%I (since) where since > 1', stored);
    execute format('create index on records.%I (until) where until is not null', stored);
  end loop;
end $$;
