-- What was performed, from a start to its stop, each by itself. A run that is under way is kept too, as far as it
-- has come; it is made whole at its stop.
create table runs (
  show_id   bigint      not null references shows (id) on delete cascade,
  id        int         not null,
  began_us  bigint      not null,
  name      varchar(60) not null default '',
  bars      int         not null,
  lasts_us  bigint      not null,
  sections  varchar(400) not null default '',
  underway  boolean     not null default false,
  performed clob        not null,
  done      clob        not null,
  undone    clob        not null,
  primary key (show_id, id)
);

-- What is brought in is long: it stands in a column of its own, so that all other lines stay in their rows.
alter table journal add column long_command clob;
