-- Columns that records of another table are found by, as `indexStored` indexes them where one is chosen from now on.
do $$
declare
  key record;
begin
  for key in
    select distinct c.drawn ->> 'table' as "table", k ->> 'theirs' as id, far.type
    from data_column c cross join lateral jsonb_array_elements(c.drawn -> 'keys') k join data_column far on far.id = (k ->> 'theirs')::bigint
    where c.drawn ->> 'kind' = 'related' and k ->> 'part' = 'whole' and far.feel is null and far.drawn is null
  loop
    -- A table with parts is a view, which cannot be indexed.
    if exists (
      select from pg_class r join pg_attribute a on a.attrelid = r.oid
      where r.relnamespace = 'records'::regnamespace and r.relkind = 'r' and r.relname = 't' || key."table" and a.attname = 'c' || key.id
    ) then
      execute format('create index if not exists t%1$s_c%2$s on records.t%1$s (%3$s)', key."table", key.id,
        case when key.type = 'text' then format('left(c%s, 200)', key.id) else format('c%s', key.id) end);
    end if;
  end loop;
end $$;
