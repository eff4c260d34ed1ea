-- No date stands for whatever day it is; only where people chose so.
alter table workspace alter column as_of drop not null;
