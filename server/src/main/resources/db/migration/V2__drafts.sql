-- Drafts with names, shared between administrators; editions that come into force at a time; a second
-- administrator's consent; messages to hosts; and one row that tells whether the directory has changed.

create table house (
  id                 int          not null primary key,
  directory_revision bigint       not null,
  needs_consent      boolean      not null,
  -- who asked that consent be no longer needed; a second administrator's word ends it
  consent_off_by     varchar(254) null,
  constraint house_single check (id = 1)
);
insert into house values (1, 0, false, null);

alter table edition
  add column effective_at datetime(3)  null after published_at,
  add column consent_by   varchar(254) null,
  add column withdrawn_at datetime(3)  null,
  add column withdrawn_by varchar(254) null;
update edition set effective_at = published_at;
alter table edition
  modify effective_at datetime(3) not null,
  add index edition_effective (effective_at);

rename table draft to draft_of_one;
create table draft (
  id             bigint        not null auto_increment primary key,
  name           varchar(120)  not null,
  base_edition   int           not null,
  document       longtext      not null,
  made_by        varchar(254)  not null,
  made_at        datetime(3)   not null,
  saved_by       varchar(254)  not null,
  saved_at       datetime(3)   not null,
  proposed_by    varchar(254)  null,
  proposed_at    datetime(3)   null,
  reason         varchar(2000) null,
  effective_at   datetime(3)   null,
  tell_hosts     boolean       not null default false,
  answer         varchar(2000) null,
  answered_by    varchar(254)  null,
  version        bigint        not null,
  constraint draft_name unique (name),
  constraint draft_json check (json_valid(document))
);
insert into draft (name, base_edition, document, made_by, made_at, saved_by, saved_at, version)
  select concat('Draft of ', left(owner, 100)), base_edition, document, owner, saved_at, owner, saved_at, version
  from draft_of_one;
drop table draft_of_one;

create table draft_presence (
  draft   bigint       not null,
  email   varchar(254) not null,
  name    varchar(200) not null,
  seen_at datetime(3)  not null,
  constraint draft_presence_key primary key (draft, email),
  constraint draft_presence_draft foreign key (draft) references draft (id) on delete cascade
);

-- Messages as they went out (RFC 5322), kept for reading.
create table outbox_message (
  id         bigint        not null auto_increment primary key,
  recipient  varchar(254)  not null,
  subject    varchar(500)  not null,
  about      varchar(64)   not null,
  body       mediumtext    not null,
  raw        mediumblob    not null,
  written_by varchar(254)  not null,
  written_at datetime(3)   not null,
  index outbox_about (about),
  index outbox_recipient (recipient)
);

-- Whether anything in the register changed is asked often: a narrow index answers it.
alter table meeting add index meeting_version (version);
