-- Rows that are written by the thousand take their numbers from a sequence, a block at a time: one
-- that the database numbers as it comes in cannot be written together with others.
set @q = (select concat('create sequence finding_seq start with ', coalesce(max(id), 0) + 1,
  ' increment by 1000 nocache') from finding);
prepare made from @q;
execute made;
deallocate prepare made;
alter table finding modify column id bigint not null;

set @q = (select concat('create sequence finding_event_seq start with ', coalesce(max(id), 0) + 1,
  ' increment by 1000 nocache') from finding_event);
prepare made from @q;
execute made;
deallocate prepare made;
alter table finding_event modify column id bigint not null;
