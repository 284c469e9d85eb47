-- The wall is read in the order in which to fix things, a page at a time: undated meetings last. An
-- expression in the order would have all of an audit sorted for each page.
alter table audited_meeting
  add column undated boolean generated always as (next_start is null) virtual,
  drop index audited_meeting_order,
  add index audited_meeting_fix_order (audit, worst desc, undated, next_start, invited desc, meeting);

-- No list of findings could be read by it either; what is counted of them all is how many of each
-- severity are open.
alter table finding
  drop index finding_fix_order,
  add index finding_of_severity (audit, severity, waiver);

-- "where id = ? and version = ?" took this index, with locks on gaps that other meetings' changes
-- fall into: two who changed two meetings at once could be told to repeat it. The sum over all
-- versions is read off an index that begins with what no change is looked up by.
alter table meeting
  drop index meeting_version,
  add index meeting_sum (whole_day, version);
