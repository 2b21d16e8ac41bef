-- What was played lately has rows of its own, a page each, known by its first note: it is never written whole.
create table hindsight (
  show_id    bigint not null references shows (id) on delete cascade,
  part_id    int    not null,
  first_note bigint not null,
  body       clob   not null,
  primary key (show_id, part_id, first_note)
);
