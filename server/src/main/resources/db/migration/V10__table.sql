-- The register's table asks what changed of late, whichever server changed it.
alter table meeting add index meeting_changed (changed_at);

-- Findings are listed in the order in which to fix them, a page at a time, without the long texts. The waiver is in
-- it so that no row is looked up only to be left out.
alter table finding
  add column undated boolean generated always as (next_start is null) virtual,
  add index finding_fix_order (audit, severity, undated, next_start, invited desc, id, waiver);

-- The first page shows what is most exposed of all that is held soon.
alter table audited_meeting add index audited_meeting_exposure (audit, exposure desc, next_start, meeting);
