-- Audits that go on where they were, one that is always current, waivers, remedies through the bridge, what hosts
-- are asked, schedules, and the signals that keep open pages alive.

alter table audit_run
  add column cause       varchar(12)  not null default 'by-hand',
  add column scope       longtext     not null default '{}',
  -- how many meetings were looked at, in or out of the scope; and the register's row that was last
  add column scanned     int          not null default 0,
  add column cursor_row  bigint       not null default 0,
  -- who works on it, and until when that is believed
  add column worker      varchar(64)  null,
  add column lease_until datetime(3)  null,
  add column baseline    boolean      not null default false,
  add column schedule    bigint       null,
  -- whether the report of a scheduled one has been sent
  add column reported    boolean      not null default false,
  -- of the standing audit: the directory it knows, and when it last went through everything
  add column directory   bigint       null,
  add column renewed_at  datetime(3)  null,
  drop constraint audit_run_state,
  add constraint audit_run_state check (state in ('waiting', 'running', 'done', 'failed', 'cancelled', 'standing')),
  add constraint audit_run_scope check (json_valid(scope)),
  add index audit_run_by_state (state);
update audit_run set scanned = judged;
update audit_run set state = 'waiting', judged = 0, scanned = 0, occurrences = 0, findings = 0
  where state in ('waiting', 'running');
delete from audited_meeting where audit in (select id from audit_run where state = 'waiting');
delete from finding where audit in (select id from audit_run where state = 'waiting');

alter table audited_meeting
  add column waived               int          not null default 0,
  -- the control values as judged
  add column judged_set           bigint       null,
  add column next_end             datetime(3)  null,
  add column version              bigint       null,
  add column number               varchar(40)  null,
  add column passcode_fingerprint char(43)     null,
  add constraint audited_meeting_set foreign key (judged_set) references control_set (id),
  add index audited_meeting_host (audit, host),
  add index audited_meeting_next_end (audit, next_end);

alter table finding
  add column waiver  bigint      null,
  add column seen_at datetime(3) null,
  add index finding_over_time (meeting, check_id, subject),
  add index finding_of_check (audit, check_id, subject);

-- Meetings that the standing audit has yet to look at again; written with what changed them.
create table meeting_due (
  id      bigint      not null auto_increment primary key,
  meeting varchar(64) not null
);

-- What came and went in the standing audit, and why.
create table finding_event (
  id         bigint       not null auto_increment primary key,
  at         datetime(3)  not null,
  what       varchar(8)   not null,
  cause      varchar(12)  not null,
  by_whom    varchar(254) null,
  meeting    varchar(64)  not null,
  title      varchar(500) not null,
  unit       varchar(64)  null,
  occurrence varchar(19)  not null,
  check_id   varchar(32)  not null,
  subject    varchar(64)  not null,
  family     varchar(24)  not null,
  severity   tinyint      not null,
  seen_at    datetime(3)  null,
  constraint finding_event_what check (what in ('came', 'gone')),
  constraint finding_event_cause check (cause in ('change', 'edition', 'directory', 'time', 'over')),
  index finding_event_at (at),
  index finding_event_meeting (meeting, id)
);

create table audit_count (
  audit    bigint      not null,
  unit     varchar(64) not null,
  family   varchar(24) not null,
  severity tinyint     not null,
  open     int         not null,
  waived   int         not null,
  constraint audit_count_key primary key (audit, unit, family, severity),
  constraint audit_count_audit foreign key (audit) references audit_run (id) on delete cascade
);

create table audit_band (
  audit    bigint      not null,
  unit     varchar(64) not null,
  band     varchar(8)  not null,
  meetings int         not null,
  constraint audit_band_key primary key (audit, unit, band),
  constraint audit_band_audit foreign key (audit) references audit_run (id) on delete cascade
);

create table audit_schedule (
  id          bigint       not null auto_increment primary key,
  name        varchar(120) not null,
  days        varchar(40)  not null,
  at_time     varchar(5)   not null,
  zone        varchar(64)  not null,
  scope       longtext     not null,
  window_days int          not null,
  recipients  longtext     not null,
  next_at     datetime(3)  not null,
  active      boolean      not null default true,
  made_by     varchar(254) not null,
  version     bigint       not null default 0,
  constraint audit_schedule_scope check (json_valid(scope)),
  constraint audit_schedule_recipients check (json_valid(recipients)),
  index audit_schedule_next (active, next_at)
);

create table waiver (
  id         bigint        not null auto_increment primary key,
  scope      varchar(8)    not null,
  meeting    varchar(64)   null,
  occurrence varchar(19)   not null default '',
  check_id   varchar(32)   not null default '',
  subject    varchar(64)   not null default '',
  unit       varchar(64)   null,
  reason     varchar(2000) not null,
  asked_by   varchar(254)  null,
  granted_by varchar(254)  not null,
  granted_at datetime(3)   not null,
  second_by  varchar(254)  null,
  second_at  datetime(3)   null,
  until      datetime(3)   not null,
  state      varchar(8)    not null,
  ended_by   varchar(254)  null,
  ended_at   datetime(3)   null,
  warned     boolean       not null default false,
  constraint waiver_scope check (scope in ('finding', 'meeting', 'rule')),
  constraint waiver_state check (state in ('waiting', 'in-force', 'lapsed', 'ended', 'refused')),
  index waiver_meeting (meeting),
  index waiver_until (state, until)
);

alter table house
  add column waivers_by_two   boolean      not null default false,
  add column one_waiver_by    varchar(254) null,
  -- hosts are reminded after so many days, and the administrator may apply after so many
  add column remind_days      int          not null default 2,
  add column apply_after_days int          not null default 5,
  -- the edition that an audit after a publication was last begun for
  add column audited_edition  int          not null default 0;
update house set audited_edition = (select coalesce(max(number), 0) from edition);

alter table waiver_request
  add column state       varchar(8)    not null default 'open',
  add column answered_by varchar(254)  null,
  add column answered_at datetime(3)   null,
  add column answer      varchar(2000) null,
  add constraint waiver_request_state check (state in ('open', 'granted', 'refused'));

-- The conference service's own memory, as the stand-in keeps it: what it was told, by the command's id.
create table bridge_command (
  id      varchar(64) not null primary key,
  meeting varchar(64) not null,
  at      datetime(3) not null,
  outcome varchar(8)  not null,
  reason  varchar(500) null
);
create table bridge_setting (
  meeting    varchar(64)  not null,
  occurrence varchar(19)  not null,
  control    varchar(32)  not null,
  value      longtext     not null,
  constraint bridge_setting_key primary key (meeting, occurrence, control)
);
create table bridge_state (
  id         int          not null primary key,
  away_until datetime(3)  null,
  refuses    varchar(500) not null default '',
  slow_ms    int          not null default 0,
  constraint bridge_state_single check (id = 1)
);
insert into bridge_state (id) values (1);

create table remedy_job (
  id         bigint       not null auto_increment primary key,
  what       varchar(300) not null,
  by_whom    varchar(254) not null,
  by_name    varchar(200) not null,
  by_role    varchar(16)  not null,
  at         datetime(3)  not null,
  undo_of    bigint       null,
  constraint remedy_job_undo_of foreign key (undo_of) references remedy_job (id),
  constraint remedy_job_undone_once unique (undo_of)
);

create table remedy_item (
  id           bigint        not null auto_increment primary key,
  job          bigint        not null,
  meeting      varchar(64)   not null,
  title        varchar(500)  not null,
  occurrence   varchar(19)   not null default '',
  -- control → {from, to}; and whether a passcode or a number is made anew
  changes      longtext      not null,
  new_passcode boolean       not null default false,
  new_number   boolean       not null default false,
  -- of an undo: the version of the meeting whose passcode and number come back
  back_to      bigint        null,
  state        varchar(12)   not null,
  attempts     int           not null default 0,
  next_try     datetime(3)   null,
  trouble      varchar(500)  null,
  -- the meeting's version that was replaced
  was_version  bigint        null,
  now_version  bigint        null,
  sent         int           not null default 0,
  done_at      datetime(3)   null,
  constraint remedy_item_once unique (job, meeting, occurrence),
  constraint remedy_item_job foreign key (job) references remedy_job (id),
  constraint remedy_item_changes check (json_valid(changes)),
  constraint remedy_item_state check (state in ('waiting', 'sending', 'done', 'refused', 'overtaken', 'gone', 'given-up')),
  index remedy_item_waiting (state, next_try),
  index remedy_item_meeting (meeting)
);

create table host_request (
  id          bigint       not null auto_increment primary key,
  host        varchar(254) not null,
  asked_by    varchar(254) not null,
  asked_at    datetime(3)  not null,
  remind_at   datetime(3)  not null,
  reminded    int          not null default 0,
  apply_after datetime(3)  not null,
  note        varchar(2000) not null default '',
  index host_request_host (host)
);

create table host_request_item (
  id          bigint        not null auto_increment primary key,
  request     bigint        not null,
  meeting     varchar(64)   not null,
  title       varchar(500)  not null,
  occurrence  varchar(19)   not null,
  check_id    varchar(32)   not null,
  subject     varchar(64)   not null,
  severity    tinyint       not null,
  sentence    varchar(2000) not null,
  changes     longtext      not null,
  state       varchar(10)   not null default 'open',
  answer      varchar(2000) null,
  proposed    longtext      null,
  answered_by varchar(254)  null,
  answered_at datetime(3)   null,
  constraint host_request_item_request foreign key (request) references host_request (id),
  constraint host_request_item_once unique (request, meeting, occurrence, check_id, subject),
  constraint host_request_item_changes check (json_valid(changes)),
  constraint host_request_item_proposed check (proposed is null or json_valid(proposed)),
  constraint host_request_item_state check (state in ('open', 'agreed', 'proposed', 'reasoned', 'settled', 'mended')),
  index host_request_item_meeting (meeting, state),
  index host_request_item_state (state)
);

-- What happened that open pages should hear of; the topic is enough, they ask for the rest.
create table signal_sent (
  id    bigint      not null auto_increment primary key,
  topic varchar(16) not null,
  at    datetime(3) not null,
  index signal_sent_at (at)
);

alter table outbox_message add column attachment varchar(120) null;
