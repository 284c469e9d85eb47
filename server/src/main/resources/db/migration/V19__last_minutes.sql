-- Alerts belong together by what brought them about, and end by themselves when that does.
alter table floor_alert
  add column cause   varchar(190) not null default '',
  add column by_whom varchar(254) null,
  drop constraint floor_alert_state;
alter table floor_alert
  add constraint floor_alert_state check (state in ('open', 'acknowledged', 'handed-on', 'closed', 'ended')),
  add index floor_alert_cause (session, cause);
update floor_alert set cause = alert_key;

-- What a session has followed of its meeting's settings; empty where they are as it was opened.
alter table floor_session add column followed longtext null;

-- What somebody has allowed beyond a rule, for one session.
create table floor_allowance (
  id      bigint        not null auto_increment primary key,
  session varchar(60)   not null,
  control varchar(40)   not null,
  value   varchar(200)  not null,
  reason  varchar(2000) not null,
  by_whom varchar(254)  not null,
  at      datetime(3)   not null,
  index floor_allowance_session (session, control)
);

-- Whom alerts of sessions reach, and how. One row.
create table alert_setting (
  id             int          not null primary key,
  on_call        longtext     not null,
  next_minutes   int          not null,
  least_severity int          not null,
  quiet_from     varchar(5)   null,
  quiet_to       varchar(5)   null,
  quiet_zone     varchar(64)  not null,
  webhook        varchar(300) null,
  secret_cipher  varbinary(600) null,
  changed_by     varchar(254) not null,
  changed_at     datetime(6)  not null,
  version        bigint       not null default 0
);

-- What was told of a cause of alerts, and who is told next where nobody has acknowledged it.
create table alert_told (
  session varchar(60)  not null,
  cause   varchar(190) not null,
  told_at datetime(6)  not null,
  step    int          not null,
  next_at datetime(6)  null,
  constraint alert_told_key primary key (session, cause),
  index alert_told_next (next_at)
);

-- What goes to the webhook, each until it was taken.
create table alert_delivery (
  id      bigint       not null auto_increment primary key,
  event   varchar(40)  not null,
  subject varchar(300) not null,
  body    longtext     not null,
  state   varchar(10)  not null,
  tries   int          not null default 0,
  why     varchar(500) null,
  made_at datetime(6)  not null,
  sent_at datetime(6)  null,
  constraint alert_delivery_state check (state in ('waiting', 'sent', 'failed'))
);

-- Many sessions locked by one act, and how they were before.
create table floor_lockdown (
  id        bigint       not null auto_increment primary key,
  document  longtext     not null,
  by_whom   varchar(254) not null,
  at        datetime(3)  not null,
  undone_at datetime(3)  null,
  undone_by varchar(254) null
);

-- That a host was reminded of one date of a meeting.
create table host_reminder (
  meeting    varchar(64) not null,
  occurrence varchar(30) not null,
  at         datetime(3) not null,
  constraint host_reminder_key primary key (meeting, occurrence)
);
