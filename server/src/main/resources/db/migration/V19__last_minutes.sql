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
