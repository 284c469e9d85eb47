-- Accounts that are invited, have a second factor, sign in elsewhere, or look after one unit alone.
alter table account
  drop constraint account_role,
  add column unit varchar(64) null,
  add column second_factor varbinary(512) null,
  add column factor_since datetime(3) null,
  -- the last step of the clock whose code was taken: none is good twice
  add column factor_step bigint not null default 0,
  add column password_since datetime(3) null,
  add column last_seen datetime(3) null,
  -- issuer and subject of the provider that signs this person in (OpenID Connect)
  add column provider_subject varchar(400) null,
  add constraint account_role check (role in ('warden', 'unit-warden', 'auditor', 'host')),
  add constraint account_unit_role check ((role = 'unit-warden') = (unit is not null)),
  add constraint account_unit foreign key (unit) references unit (id),
  add constraint account_provider_subject unique (provider_subject);

create table recovery_code (
  account   bigint   not null,
  code_hash char(64) not null,
  constraint recovery_code_key primary key (account, code_hash),
  constraint recovery_code_account foreign key (account) references account (id) on delete cascade
);

-- A link that lets somebody set a password, once: for a new account or a forgotten password.
create table account_link (
  id         bigint       not null auto_increment primary key,
  token_hash char(64)     not null,
  account    bigint       not null,
  made_by    varchar(254) not null,
  made_at    datetime(3)  not null,
  ends_at    datetime(3)  not null,
  constraint account_link_token unique (token_hash),
  constraint account_link_account foreign key (account) references account (id) on delete cascade
);

-- Failed sign-ins: by address and place, by place, by address. Hashed: it is nobody's list of addresses.
create table sign_in_failure (
  key_hash char(64)    not null primary key,
  failures int         not null,
  until_at datetime(3) not null,
  at       datetime(3) not null,
  index sign_in_failure_at (at)
);

-- Where somebody has signed in before: there, failures of others elsewhere do not count.
create table known_place (
  account bigint      not null,
  place   varchar(64) not null,
  at      datetime(3) not null,
  constraint known_place_key primary key (account, place),
  constraint known_place_account foreign key (account) references account (id) on delete cascade
);

alter table access_token
  drop constraint access_token_role,
  add column unit varchar(64) null,
  add column last_used datetime(3) null,
  add column ended_at datetime(3) null,
  add column ended_by varchar(254) null,
  add constraint access_token_role check (role in ('warden', 'unit-warden', 'auditor', 'host')),
  add index access_token_acts_as (acts_as);

-- Sessions, as Spring Session lays them out for MariaDB; it writes its names in capitals.
create table SPRING_SESSION (
  primary_id            char(36)     not null primary key,
  session_id            char(36)     not null,
  creation_time         bigint       not null,
  last_access_time      bigint       not null,
  max_inactive_interval int          not null,
  expiry_time           bigint       not null,
  principal_name        varchar(254) null,
  constraint spring_session_id unique (session_id),
  index spring_session_expiry (expiry_time),
  index spring_session_principal (principal_name)
);

create table SPRING_SESSION_ATTRIBUTES (
  session_primary_id char(36)     not null,
  attribute_name     varchar(200) not null,
  attribute_bytes    blob         not null,
  constraint spring_session_attributes_key primary key (session_primary_id, attribute_name),
  constraint spring_session_attributes_session foreign key (session_primary_id)
    references SPRING_SESSION (primary_id) on delete cascade
);

-- What is sealed begins with the number of its key; there was one until now.
update meeting set passcode_cipher = concat(x'01', passcode_cipher) where passcode_cipher is not null;
update meeting_version set passcode_cipher = concat(x'01', passcode_cipher)
  where passcode_cipher is not null;

-- Counts up whenever fingerprints change without their meetings' changing.
create table vault_revision (
  id       int    not null primary key,
  revision bigint not null,
  constraint vault_revision_single check (id = 1)
);
insert into vault_revision values (1, 0);

-- A message that holds a passcode is sealed: its text here, its mail in "raw".
alter table outbox_message add column sealed mediumblob null;

-- Who must have a second factor.
create table access_setting (
  id         int         not null primary key,
  factor_for varchar(12) not null,
  constraint access_setting_single check (id = 1),
  constraint access_setting_factor check (factor_for in ('nobody', 'wardens', 'everybody'))
);
insert into access_setting values (1, 'nobody');
