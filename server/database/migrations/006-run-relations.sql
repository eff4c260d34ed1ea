-- What a run gave lies in a relation of its own, runs.r<id>: the record, its status and rule, each outcome (o1, o2, …)
-- and, as it was seen, each input (i1, i2, …) with the text that could not be read (u1, u2, …).
create schema runs;

do $$
declare
  one record;
begin
  for one in select r.id, v.document from run r join gate_version v on v.gate_id = r.gate_id and v.number = r.gate_version where r.state = 'done' loop
    execute format('create table runs.r%s (record integer not null, status smallint not null, rule integer, o1 text, i1 numeric, u1 text)', one.id);
    execute format(
      'insert into runs.r%s select record, status, band, $1 -> ''bands'' -> band::int -> ''entries'' -> 0 ->> ''is'', value, unreadable from run_record where run_id = $2 order by record',
      one.id) using one.document, one.id;
    execute format('alter table runs.r%s add primary key (record)', one.id);
  end loop;
end $$;

drop table run_record;
