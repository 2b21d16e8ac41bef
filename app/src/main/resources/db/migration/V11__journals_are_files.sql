-- Journals are files from now on, written ahead of what is here; the table journal is emptied into them at the first
-- start. What each page had accepted is kept with the show, as JSON: {name: number}.
alter table shows add column clients clob;
