-- What the house knows apart from its shows: which controls stand for which actions.
create table house (
  name varchar(40) primary key,
  body clob not null
);
