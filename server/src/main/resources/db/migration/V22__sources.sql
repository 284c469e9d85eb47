-- Calendars that are read where they are kept: an address that is fetched, or a CalDAV collection.
create table calendar_source (
  id            bigint        not null auto_increment primary key,
  name          varchar(60)   not null,
  kind          varchar(10)   not null,
  purpose       varchar(10)   not null,
  address       varchar(500)  not null,
  account       varchar(120)  null,
  secret_cipher varbinary(1024) null,
  -- who hosts events without an organiser, or whose time is taken up
  person        varchar(254)  not null,
  zone          varchar(64)   not null,
  minutes       int           not null,
  paused        boolean       not null default false,
  state         varchar(12)   not null default 'new',
  state_since   datetime(6)   not null,
  trouble       varchar(500)  null,
  failures      int           not null default 0,
  read_at       datetime(6)   null,
  next_at       datetime(6)   not null,
  etag          varchar(300)  null,
  last_modified varchar(100)  null,
  marker        varchar(1000) null,
  full_at       datetime(6)   null,
  -- so many were gone at once that somebody is asked first
  gone          int           not null default 0,
  gone_agreed   boolean       not null default false,
  added_by      varchar(254)  not null,
  added_at      datetime(6)   not null,
  turn          bigint        not null default 0,
  version       bigint        not null default 0,
  constraint calendar_source_kind check (kind in ('icalendar', 'caldav')),
  constraint calendar_source_purpose check (purpose in ('meetings', 'busy')),
  index calendar_source_next (next_at)
);

-- What a calendar held when it was read last: an event by its name, or a CalDAV resource.
create table source_item (
  source   bigint       not null,
  name     varchar(400) character set utf8mb4 collate utf8mb4_bin not null,
  mark     varchar(300) not null,
  -- why it, or some of it, is no meeting
  title    varchar(200) not null default '',
  refused  varchar(300) null,
  constraint source_item_key primary key (source, name),
  constraint source_item_source foreign key (source) references calendar_source (id) on delete cascade
);

-- The meetings that it became.
create table source_meeting (
  meeting varchar(64)  not null primary key,
  source  bigint       not null,
  name    varchar(400) character set utf8mb4 collate utf8mb4_bin not null,
  index source_meeting_item (source, name),
  constraint source_meeting_source foreign key (source) references calendar_source (id) on delete cascade
);

-- Meetings that it holds as well, and another calendar has brought.
create table source_also (
  source  bigint       not null,
  name    varchar(400) character set utf8mb4 collate utf8mb4_bin not null,
  meeting varchar(64)  not null,
  constraint source_also_key primary key (source, name, meeting),
  index source_also_meeting (meeting),
  constraint source_also_item foreign key (source, name) references source_item (source, name) on delete cascade
);

-- What takes up somebody's time, without a word of what it is.
create table busy_time (
  id     bigint       not null auto_increment primary key,
  source bigint       not null,
  name   varchar(400) character set utf8mb4 collate utf8mb4_bin not null,
  person varchar(254) not null,
  start  datetime(6)  not null,
  end    datetime(6)  not null,
  index busy_time_person (person, start),
  index busy_time_item (source, name),
  constraint busy_time_source foreign key (source) references calendar_source (id) on delete cascade
);

-- The lane of reading calendars.
create view job_source as select * from job where lane = 'source';
