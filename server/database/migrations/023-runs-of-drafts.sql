-- A run of a gate's draft, made to be compared with a run that is kept. Nobody keeps it: it is removed from its beginning, and soon gone.
-- Its number is below zero, so that runs that are kept follow each other without a gap.
alter table run add draft jsonb;
alter table run drop constraint run_number_check;
alter table run add constraint run_number_check check (case when draft is null then number > 0 else number < 0 and removed_at is not null end);
