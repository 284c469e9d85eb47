-- The house: who may sign in, the organisation, its people, the rulebook's editions, the register, audits.
-- Identifiers compare byte by byte (utf8mb4_bin); texts too, so that nothing is equal that is not the same.

alter database character set utf8mb4 collate utf8mb4_bin;

create table account (
  id            bigint       not null auto_increment primary key,
  email         varchar(254) not null,
  name          varchar(200) not null,
  role          varchar(16)  not null,
  password_hash varchar(255) not null,
  active        boolean      not null default true,
  created_at    datetime(3)  not null,
  constraint account_email unique (email),
  constraint account_role check (role in ('warden', 'auditor', 'host'))
);

create table access_token (
  id          bigint       not null auto_increment primary key,
  token_hash  char(64)     not null,
  purpose     varchar(200) not null,
  role        varchar(16)  not null,
  acts_as     varchar(254) not null,
  issued_by   varchar(254) not null,
  issued_at   datetime(3)  not null,
  expires_at  datetime(3)  not null,
  constraint access_token_hash unique (token_hash),
  constraint access_token_role check (role in ('warden', 'auditor', 'host'))
);

create table organisation (
  id               int          not null primary key,
  name             varchar(200) not null,
  domains          json         not null,
  partners         json         not null,
  max_participants int          not null,
  max_minutes      int          not null,
  constraint organisation_single check (id = 1)
);

create table unit (
  id       varchar(64)  not null primary key,
  name     varchar(200) not null,
  parent   varchar(64)  null,
  position bigint       not null auto_increment,
  constraint unit_position unique (position),
  constraint unit_parent foreign key (parent) references unit (id)
);

create table kind (
  id           varchar(64)  not null primary key,
  name         varchar(200) not null,
  confidential boolean      not null,
  position     bigint       not null auto_increment,
  constraint kind_position unique (position)
);

-- Distribution lists and spaces: both reach people who are then not named.
create table gathering (
  id       varchar(64)  not null,
  sort     varchar(8)   not null,
  name     varchar(200) not null,
  members  json         not null,
  position bigint       not null auto_increment,
  constraint gathering_key primary key (sort, id),
  constraint gathering_position unique (position),
  constraint gathering_sort check (sort in ('list', 'space'))
);

create table person (
  email    varchar(254) not null primary key,
  folded   varchar(254) not null,
  name     varchar(200) not null,
  standing varchar(16)  not null,
  unit     varchar(64)  null,
  active   boolean      not null,
  position bigint       not null auto_increment,
  constraint person_folded unique (folded),
  constraint person_position unique (position),
  constraint person_unit foreign key (unit) references unit (id)
);

create table edition (
  number       int          not null primary key,
  published_at datetime(3)  not null,
  published_by varchar(254) not null,
  reason       varchar(2000) not null,
  document     longtext     not null,
  constraint edition_document check (json_valid(document))
);

create table draft (
  owner        varchar(254) not null primary key,
  base_edition int          not null,
  document     longtext     not null,
  saved_at     datetime(3)  not null,
  version      bigint       not null,
  constraint draft_document check (json_valid(document))
);

-- Equal sets of control values are stored once: a register has few of them, and an audit judges each once.
create table control_set (
  id       bigint   not null auto_increment primary key,
  digest   char(64) not null,
  document longtext not null,
  constraint control_set_digest unique (digest),
  constraint control_set_document check (json_valid(document))
);

create table meeting (
  id                   bigint        not null auto_increment primary key,
  public_id            varchar(64)   not null,
  title                varchar(500)  not null,
  description          mediumtext    not null,
  kind                 varchar(64)   null,
  host                 varchar(254)  not null,
  space                varchar(64)   null,
  starts_at            datetime      not null,
  zone                 varchar(64)   not null,
  minutes              int           not null,
  recurrence           varchar(500)  null,
  ex_dates             json          not null,
  r_dates              json          not null,
  lists                json          not null,
  number               varchar(40)   null,
  passcode_cipher      varbinary(512) null,
  passcode_fingerprint char(43)      null,
  passcode_length      int           null,
  passcode_makeup      varchar(16)   null,
  passcode_weakness    varchar(16)   null,
  passcode_leaked      boolean       null,
  control_set          bigint        not null,
  changed_by           varchar(254)  not null,
  changed_at           datetime(3)   not null,
  version              bigint        not null,
  constraint meeting_public_id unique (public_id),
  constraint meeting_kind foreign key (kind) references kind (id),
  constraint meeting_control_set foreign key (control_set) references control_set (id),
  index meeting_host (host),
  index meeting_passcode (passcode_fingerprint),
  index meeting_number (number)
);

create table meeting_person (
  meeting  bigint       not null,
  part     varchar(10)  not null,
  position int          not null,
  email    varchar(254) not null,
  need     varchar(8)   null,
  constraint meeting_person_key primary key (meeting, part, position),
  constraint meeting_person_meeting foreign key (meeting) references meeting (id) on delete cascade,
  constraint meeting_person_part check (part in ('co-host', 'presenter', 'invitee')),
  index meeting_person_email (email)
);

create table meeting_change (
  meeting     bigint   not null,
  at          datetime not null,
  starts_at   datetime null,
  minutes     int      null,
  control_set bigint   not null,
  position    int      not null,
  constraint meeting_change_key primary key (meeting, at),
  constraint meeting_change_meeting foreign key (meeting) references meeting (id) on delete cascade,
  constraint meeting_change_control_set foreign key (control_set) references control_set (id)
);

create table audit_run (
  id            bigint       not null auto_increment primary key,
  state         varchar(12)  not null,
  edition       int          not null,
  window_from   datetime(3)  not null,
  window_to     datetime(3)  not null,
  started_by    varchar(254) not null,
  started_at    datetime(3)  not null,
  finished_at   datetime(3)  null,
  meetings      int          not null,
  judged        int          not null,
  occurrences   int          not null,
  findings      int          not null,
  message       varchar(1000) null,
  constraint audit_run_edition foreign key (edition) references edition (number),
  constraint audit_run_state check (state in ('waiting', 'running', 'done', 'failed'))
);

-- What a meeting was when it was judged; a finding's row stands without the meeting it was about.
create table audited_meeting (
  audit      bigint       not null,
  meeting    varchar(64)  not null,
  title      varchar(500) not null,
  host       varchar(254) not null,
  unit       varchar(64)  null,
  kind       varchar(64)  null,
  exposure   smallint     not null,
  intrusion  smallint     not null,
  disruption smallint     not null,
  next_start datetime(3)  null,
  invited    int          not null,
  findings   int          not null,
  worst      tinyint      not null,
  constraint audited_meeting_key primary key (audit, meeting),
  constraint audited_meeting_audit foreign key (audit) references audit_run (id) on delete cascade,
  index audited_meeting_order (audit, worst, next_start)
);

create table finding (
  id          bigint        not null auto_increment primary key,
  audit       bigint        not null,
  meeting     varchar(64)   not null,
  occurrence  varchar(19)   not null,
  check_id    varchar(32)   not null,
  subject     varchar(64)   not null,
  family      varchar(24)   not null,
  severity    tinyint       not null,
  next_start  datetime(3)   null,
  invited     int           not null,
  detail      longtext      not null,
  constraint finding_identity unique (audit, meeting, occurrence, check_id, subject),
  constraint finding_audit foreign key (audit) references audit_run (id) on delete cascade,
  constraint finding_severity check (severity between 1 and 5),
  constraint finding_detail check (json_valid(detail)),
  index finding_fix_order (audit, severity desc, next_start, invited desc)
);
