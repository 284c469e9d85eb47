-- What is known of a session is held for a legal reason: it is not let go while this stands.
create table floor_hold (
  session varchar(60)   not null primary key,
  reason  varchar(1000) not null,
  by_whom varchar(254)  not null,
  at      datetime(3)   not null,
  constraint floor_hold_session foreign key (session) references floor_session (id) on delete cascade
);

-- Who asked to take part in a meeting, by the form of the service that holds it.
create table meeting_registration (
  id         bigint       not null auto_increment primary key,
  meeting    varchar(64)  not null,
  service    bigint       not null,
  there      varchar(100) not null,
  address    varchar(254) not null,
  name       varchar(200) not null,
  asked_at   datetime(3)  null,
  state      varchar(10)  not null,
  wanted     varchar(10)  null,
  command    varchar(40)  null,
  decided_by varchar(254) null,
  decided_at datetime(3)  null,
  why        varchar(500) null,
  constraint meeting_registration_meeting foreign key (meeting) references meeting (public_id)
    on delete cascade,
  constraint meeting_registration_one unique (meeting, address),
  index meeting_registration_wanted (service, wanted)
);

-- What a directory that provisions by SCIM knows things by, and says of them beside what we keep.
create table scim_record (
  id          varchar(36)  not null primary key,
  sort        varchar(5)   not null,
  target      varchar(254) not null,
  user_name   varchar(254) not null,
  external_id varchar(254) null,
  document    longtext     not null,
  gone        boolean      not null,
  made_at     datetime(3)  not null,
  changed_at  datetime(3)  not null,
  constraint scim_record_target unique (sort, target),
  constraint scim_record_user_name unique (sort, user_name),
  constraint scim_record_sort check (sort in ('user', 'group')),
  index scim_record_external (sort, external_id)
);

alter table access_token
  drop constraint access_token_role,
  add constraint access_token_role
    check (role in ('warden', 'unit-warden', 'auditor', 'host', 'directory'));

-- A log collector to whom the ledger is sent, and how far it has come. One row.
create table log_collector (
  id            int          not null primary key,
  address       varchar(300) null,
  secret_cipher varbinary(600) null,
  sent_seq      bigint       not null,
  sent_at       datetime(3)  null,
  tries         int          not null,
  next_at       datetime(3)  null,
  why           varchar(500) null,
  changed_by    varchar(254) not null,
  changed_at    datetime(3)  not null
);
