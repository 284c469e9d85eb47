-- Scheduling: what belongs to a meeting besides what is judged, earlier versions, imports that can be taken
-- back, invitations and answers, feeds, rooms, people's zones, and messages in several parts.

create table room (
  id       varchar(64)  not null primary key,
  name     varchar(200) not null,
  email    varchar(254) not null,
  seats    int          not null,
  position bigint       not null auto_increment,
  constraint room_position unique (position),
  constraint room_seats check (seats > 0)
);

alter table person add column zone varchar(64) null;

alter table meeting
  add column act       varchar(20)  not null default 'scheduled',
  -- why it was changed last, where somebody said so
  add column remark    varchar(2000) null,
  add column host_folded varchar(254) as (lower(host)) stored,
  add column room      varchar(64)  null,
  add column whole_day boolean      not null default false,
  add column reminder  int          null,
  add column breakout  longtext     not null default '[]',
  add column uid       varchar(255) null,
  add column sequence  int          not null default 0,
  add column foreign_lines longtext not null default '[]',
  add constraint meeting_room foreign key (room) references room (id),
  add constraint meeting_breakout check (json_valid(breakout)),
  add constraint meeting_foreign_lines check (json_valid(foreign_lines)),
  add index meeting_uid (uid),
  add index meeting_host_folded (host_folded),
  add index meeting_of_room (room);

alter table meeting_person
  add column folded varchar(254) as (lower(email)) stored,
  add index meeting_person_folded (folded);

-- What a meeting was before a change; the last row of a cancelled one has no document.
create table meeting_version (
  id              bigint         not null auto_increment primary key,
  meeting         varchar(64)    not null,
  version         bigint         not null,
  title           varchar(500)   not null,
  host            varchar(254)   not null,
  at              datetime(3)    not null,
  changed_by      varchar(254)   not null,
  act             varchar(20)    not null,
  remark          varchar(2000)  null,
  document        longtext       null,
  passcode_cipher varbinary(512) null,
  constraint meeting_version_document check (document is null or json_valid(document)),
  index meeting_version_meeting (meeting, id),
  index meeting_version_act (act, id)
);

-- Numbers that hosts use again and again.
create table host_number (
  number varchar(40)  not null primary key,
  host   varchar(254) not null,
  index host_number_host (host)
);

create table import_batch (
  id            bigint       not null auto_increment primary key,
  what          varchar(12)  not null,
  name          varchar(200) not null,
  taken_by      varchar(254) not null,
  taken_at      datetime(3)  not null,
  added         int          not null,
  changed       int          not null,
  unchanged     int          not null,
  refused       int          not null,
  taken_back_by varchar(254) null,
  taken_back_at datetime(3)  null
);

-- What each thing was before the import; no document where it was not there.
create table import_item (
  batch           bigint         not null,
  position        int            not null,
  part            varchar(12)    not null,
  ref             varchar(254)   not null,
  document        longtext       null,
  passcode_cipher varbinary(512) null,
  version         bigint         null,
  -- of what the import made of it, where that has no version
  digest          char(64)       null,
  constraint import_item_key primary key (batch, position),
  constraint import_item_batch foreign key (batch) references import_batch (id) on delete cascade
);

create table invitation (
  meeting    varchar(64)   not null,
  email      varchar(254)  not null,
  occurrence varchar(19)   not null default '',
  state      varchar(12)   not null,
  sequence   int           not null,
  remark     varchar(1000) null,
  at         datetime(3)   not null,
  constraint invitation_key primary key (meeting, email, occurrence),
  constraint invitation_state check (state in ('sent', 'accepted', 'declined', 'tentative', 'cancelled')),
  index invitation_email (email)
);

create table feed (
  id         bigint        not null auto_increment primary key,
  token_hash char(64)      not null,
  name       varchar(200)  not null,
  owner      varchar(254)  not null,
  scope      longtext      not null,
  made_at    datetime(3)   not null,
  used_at    datetime(3)   null,
  constraint feed_token unique (token_hash),
  constraint feed_scope check (json_valid(scope)),
  index feed_owner (owner)
);

create table waiver_request (
  id          bigint        not null auto_increment primary key,
  meeting     varchar(64)   not null,
  control     varchar(32)   not null,
  wanted      varchar(1000) not null,
  reason      varchar(2000) not null,
  asked_by    varchar(254)  not null,
  asked_at    datetime(3)   not null,
  index waiver_request_meeting (meeting),
  constraint waiver_request_wanted check (json_valid(wanted))
);

alter table outbox_message
  add column html     mediumtext   null,
  add column calendar mediumtext   null,
  add column state    varchar(8)   not null default 'kept',
  add column attempts int          not null default 0,
  add column next_try datetime(3)  null,
  add column trouble  varchar(500) null,
  add constraint outbox_state check (state in ('kept', 'waiting', 'sent', 'failed')),
  add index outbox_waiting (state, next_try);
