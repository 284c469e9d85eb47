-- Conference services that hold meetings. What is unlinked stays, so that what was read from it can be told apart.
create table conference_service (
  id            bigint       not null auto_increment primary key,
  name          varchar(60)  collate utf8mb4_unicode_520_ci not null,
  address       varchar(300) not null,
  secret_cipher varbinary(600) null,
  level         varchar(10)  not null,
  paused        boolean      not null default false,
  about         longtext     not null,
  state         varchar(20)  not null,
  state_since   datetime(6)  not null,
  trouble       varchar(500) null,
  contact_at    datetime(6)  null,
  marker        varchar(200) null,
  full_since    datetime(6)  null,
  full_at       datetime(6)  null,
  added_by      varchar(254) not null,
  added_at      datetime(6)  not null,
  unlinked_at   datetime(6)  null,
  turn          bigint       not null default 0,
  -- the account's own defaults and locks, as they were read, and how far ours have come
  defaults      longtext     null,
  defaults_by   varchar(254) null,
  defaults_changed_at datetime(6) null,
  defaults_read_at datetime(6) null,
  defaults_edition int       not null default 0,
  defaults_state varchar(20) not null default 'none',
  defaults_command varchar(40) null,
  defaults_why  varchar(500) null,
  version       bigint       not null default 0,
  index conference_service_name (name)
);

-- A meeting that a service holds: what was decided here, and how far it has come. The meeting's own row is what the
-- service said it holds.
create table meeting_held (
  meeting       varchar(64)  not null primary key,
  service       bigint       not null,
  there         varchar(100) not null,
  revision      varchar(60)  not null,
  read_at       datetime(6)  not null,
  link          varchar(500) null,
  dial_in       longtext     not null,
  decided       longtext     not null,
  notes         longtext     not null,
  fields        varchar(300) not null default '',
  writing       varchar(20)  not null,
  command       varchar(40)  null,
  tries         int          not null default 0,
  why           varchar(500) null,
  late          boolean      not null default false,
  decided_by    varchar(254) null,
  decided_at    datetime(6)  null,
  sent_at       datetime(6)  null,
  confirmed_at  datetime(6)  null,
  version       bigint       not null default 0,
  unique index meeting_held_there (service, there),
  index meeting_held_to_write (service, writing, decided_at),
  constraint meeting_held_service foreign key (service) references conference_service (id)
);

create view job_service as select * from job where lane = 'service';

-- A remedy in a meeting that a service holds is done once that was read back.
alter table remedy_item drop constraint remedy_item_state;
alter table remedy_item
  add constraint remedy_item_state check (state in
    ('waiting', 'sending', 'confirming', 'done', 'refused', 'overtaken', 'gone', 'given-up'));
