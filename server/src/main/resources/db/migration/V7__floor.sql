-- Sessions as the conference service tells them. An event is stored as it came; the book of a session is
-- the events up to "folded", which leaves none out.
create table floor_session (
  id         varchar(60)   not null primary key,
  meeting    varchar(64)   not null,
  occurrence varchar(20)   not null,
  title      varchar(500)  not null,
  host       varchar(254)  not null,
  co_hosts   longtext      not null,
  starts     datetime(3)   not null,
  ends       datetime(3)   not null,
  -- the service's clock runs from here, this fast
  clock_from datetime(3)   not null,
  wall_from  datetime(3)   not null,
  speed      double        not null,
  practice   boolean       not null,
  -- how the stand-in plays it
  script     varchar(16)   not null,
  strangers  int           not null,
  edition    int           not null,
  kind       varchar(64)   null,
  controls   longtext      not null,
  state      varchar(12)   not null,
  folded     bigint        not null default 0,
  made_by    varchar(254)  not null,
  ended_at   datetime(3)   null,
  constraint floor_session_state check (state in ('asked', 'open', 'ended', 'lost')),
  index floor_session_state (state, starts),
  index floor_session_meeting (meeting, starts)
);

create table floor_event (
  session varchar(60) not null,
  seq     bigint      not null,
  body    longtext    not null,
  constraint floor_event_key primary key (session, seq)
);

create table floor_alert (
  id         bigint       not null auto_increment primary key,
  session    varchar(60)  not null,
  alert_key  varchar(190) not null,
  kind       varchar(30)  not null,
  seq        bigint       not null,
  who        varchar(60)  null,
  guarantee  varchar(64)  null,
  severity   int          not null,
  words      varchar(600) not null,
  act        longtext     not null,
  happened   datetime(3)  not null,
  raised     datetime(3)  not null,
  state      varchar(12)  not null default 'open',
  handled_by varchar(254) null,
  handed_to  varchar(254) null,
  note       varchar(2000) null,
  changed_at datetime(3)  not null,
  constraint floor_alert_key unique (session, alert_key),
  constraint floor_alert_state check (state in ('open', 'acknowledged', 'handed-on', 'closed')),
  index floor_alert_open (state, session)
);

-- What the service was told to do. The id is the page's: told twice, it is one.
create table floor_order (
  id        varchar(60)  not null primary key,
  session   varchar(60)  not null,
  body      longtext     not null,
  asked_by  varchar(254) not null,
  at        datetime(3)  not null,
  state     varchar(12)  not null,
  reason    varchar(500) not null default '',
  attempts  int          not null default 0,
  next_at   datetime(3)  not null,
  constraint floor_order_state check (state in ('waiting', 'done', 'refused', 'given-up')),
  index floor_order_session (session, at),
  index floor_order_waiting (state, next_at)
);

create table floor_incident (
  id       bigint       not null auto_increment primary key,
  session  varchar(60)  not null,
  title    varchar(300) not null,
  note     longtext     not null,
  -- as it stood when it was written: alerts, people, timeline
  document longtext     not null,
  by_whom  varchar(254) not null,
  at       datetime(3)  not null,
  index floor_incident_session (session)
);

alter table bridge_state
  add column repeats boolean not null default false,
  add column shuffles boolean not null default false;
