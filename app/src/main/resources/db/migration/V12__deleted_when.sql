-- When a show was taken off the list, in microseconds since 1970: for so long it can be put back.
alter table shows add column deleted_us bigint not null default 0;
