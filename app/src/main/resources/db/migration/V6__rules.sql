-- Under which rules a line of the journal was done: those that were there are of the first. A show goes on from
-- its saved state, never under other rules than its own.
alter table journal add column rules int default 1 not null;
alter table journal alter column command varchar(20000) not null;
