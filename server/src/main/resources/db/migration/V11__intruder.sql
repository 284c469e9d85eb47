-- Who set somebody's credentials for them last, and when: for a week their consent does not count.
alter table account
  add column credentials_by varchar(254) null,
  add column credentials_at datetime(3) null;

-- One salt for a set of codes; codes from before have none until they are made anew.
alter table recovery_code
  add column salt char(32) not null default '';

-- Addresses are compared without case; so were these to be.
update access_token set acts_as = lower(trim(acts_as)), issued_by = lower(trim(issued_by));

-- A feed ends by itself; each use puts its end off.
alter table feed add column ends_at datetime(3) null;
update feed set owner = lower(trim(owner)), ends_at = utc_timestamp(3) + interval 90 day;
alter table feed modify column ends_at datetime(3) not null;

-- The chain has a key from now on, which is not in the database. An entry's links are in its hash.
alter table ledger_entry add column key_no int null;
alter table ledger_head
  add column key_no int null,
  add column keyed_from bigint null,
  add column mac char(64) null;

-- Letters to many, written some at a time by whichever server runs.
create table letter_round (
  id         bigint       not null auto_increment primary key,
  meeting    varchar(64)  not null,
  sort       varchar(12)  not null,
  word       varchar(2000) null,
  -- the meeting as it was, without its passcode
  document   longtext     not null,
  recipients longtext     not null,
  next_one   int          not null default 0,
  sequence   int          not null,
  asks_anew  boolean      not null,
  written_by varchar(254) not null,
  tries      int          not null default 0,
  next_try   datetime(3)  not null,
  trouble    varchar(500) null,
  index letter_round_next (next_try),
  constraint letter_round_sort check (sort in ('NEW', 'CHANGED', 'CANCELLED'))
);
