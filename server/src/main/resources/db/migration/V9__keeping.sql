-- How long things are kept, in days; null is for ever.
create table keeping_rule (
  what varchar(24) not null primary key,
  days int         null,
  ran_at datetime(3) null,
  forgot bigint    not null default 0,
  constraint keeping_rule_days check (days is null or days between 1 and 36500)
);
insert into keeping_rule (what, days) values
  ('audits', 730), ('session-people', 180), ('sessions', 730), ('messages', 730),
  ('versions', 1095), ('places', 365), ('tokens', 365), ('ledger', null);

-- The chain begins behind this entry: what was before it was let go on purpose.
alter table ledger_head
  add column from_seq bigint not null default 0,
  add column from_hash char(64) not null default '0000000000000000000000000000000000000000000000000000000000000000';

-- What is looked for when something is let go.
alter table audit_run add index audit_run_started (started_at);
alter table outbox_message add index outbox_written (written_at);
alter table meeting_version add index meeting_version_at (at);

-- The servers that run on this database.
create table node (
  name       varchar(120) not null primary key,
  version    varchar(40)  not null,
  started_at datetime(3)  not null,
  seen_at    datetime(3)  not null
);
