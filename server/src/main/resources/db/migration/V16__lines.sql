-- The register as lists show it: a line a meeting, written with the meeting, and judged by the audit that is always
-- current. Names are ordered and looked for as people read them. Each order that a list can have is an index.
create table meeting_line (
  meeting     varchar(64)  not null primary key,
  title       varchar(500) collate utf8mb4_unicode_520_ci not null,
  host        varchar(254) collate utf8mb4_unicode_520_ci not null,
  host_name   varchar(254) collate utf8mb4_unicode_520_ci not null,
  unit        varchar(64)  null,
  kind        varchar(64)  null,
  changed_at  datetime(3)  not null,
  next_start  datetime(3)  null,
  undated     boolean      generated always as (next_start is null) virtual,
  occurrences int          null,
  exposure    smallint     null,
  findings    int          not null default 0,
  worst       tinyint      not null default 0,
  invited     int          not null default 0,
  index meeting_line_next (undated, next_start, meeting),
  index meeting_line_title (title, meeting),
  index meeting_line_host (host_name, meeting),
  index meeting_line_hosted (host),
  index meeting_line_unit (unit, meeting),
  index meeting_line_kind (kind, meeting),
  index meeting_line_invited (invited desc, meeting),
  index meeting_line_changed (changed_at desc, meeting),
  index meeting_line_exposure (exposure desc, meeting),
  index meeting_line_findings (worst desc, findings desc, meeting)
);

insert into meeting_line (meeting, title, host, host_name, unit, kind, changed_at)
  select m.public_id, m.title, m.host, coalesce(p.name, m.host), p.unit, m.kind, m.changed_at
  from meeting m left join person p on p.folded = m.host_folded;

-- All of it is gone through once more, which judges the lines.
update audit_run set renewed_at = null, cursor_row = 0 where state = 'standing';
