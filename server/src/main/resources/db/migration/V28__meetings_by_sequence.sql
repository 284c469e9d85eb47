-- Meetings take their numbers from a sequence, a block at a time, as findings do: a file of 100,000 is
-- written some hundred rows at a time, not one by one. What comes first is told by times, not by numbers.
-- Of what a sequence gives the first number is 1 or the end of a block of 1000.
set @q = (select concat('create sequence meeting_seq start with ', coalesce(max(id) + 1000, 1),
  ' increment by 1000 nocache') from meeting);
prepare made from @q;
execute made;
deallocate prepare made;
alter table meeting modify column id bigint not null;

-- Those of findings began right behind the rows of their time, whose numbers were in their first block.
set @q = (select concat('do setval(finding_seq, ', coalesce(max(id) + 1000, 1), ', 0)') from finding);
prepare made from @q;
execute made;
deallocate prepare made;
set @q = (select concat('do setval(finding_event_seq, ', coalesce(max(id) + 1000, 1), ', 0)')
  from finding_event);
prepare made from @q;
execute made;
deallocate prepare made;

-- Marks that are vowels are kept now in what a line is found by: all of it is gone through once more.
update audit_run set renewed_at = null, cursor_row = 0 where state = 'standing';
