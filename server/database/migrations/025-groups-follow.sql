-- What a table of groups was made of: of the table beneath, the generation of its figures and their definitions.
alter table figure_state add column beneath jsonb;
