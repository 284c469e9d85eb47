-- Work in the background, an item each; the columns up to priority are db-scheduler's. What failed for good
-- stays, with its time in the year 9999, until somebody has it tried again or lets it be.
create table job (
  task_name            varchar(40)  not null,
  task_instance        varchar(100) not null,
  task_data            blob         null,
  execution_time       datetime(6)  not null,
  picked               boolean      not null default false,
  picked_by            varchar(50)  null,
  last_success         datetime(6)  null,
  last_failure         datetime(6)  null,
  consecutive_failures int          null,
  last_heartbeat       datetime(6)  null,
  version              bigint       not null default 1,
  priority             smallint     null,
  lane                 varchar(10)  not null default 'house',
  tries                int          not null default 0,
  trouble              varchar(500) null,
  primary key (task_name, task_instance),
  index job_due (lane, picked, execution_time),
  index job_beating (lane, last_heartbeat),
  index job_in_trouble (tries)
);

-- Each lane has threads of its own, so that a mail server that is slow holds up no audit.
create view job_house   as select * from job where lane = 'house';
create view job_outward as select * from job where lane = 'outward';
create view job_audit   as select * from job where lane = 'audit';

-- What waits already.
insert into job (task_name, task_instance, execution_time, lane)
  select 'mail', id, coalesce(next_try, utc_timestamp(6)), 'outward' from outbox_message where state = 'waiting';
insert into job (task_name, task_instance, execution_time)
  select 'letters', id, next_try from letter_round where tries < 8;
insert into job (task_name, task_instance, execution_time, tries, trouble)
  select 'letters', id, '9999-01-01', tries, trouble from letter_round where tries >= 8;
insert into job (task_name, task_instance, execution_time, lane)
  select 'audit', id, utc_timestamp(6), 'audit' from audit_run where state in ('waiting', 'running');
insert into job (task_name, task_instance, execution_time)
  select 'report', id, utc_timestamp(6) from audit_run
  where state = 'done' and schedule is not null and reported = false;

-- Tries and times are the job's now.
alter table outbox_message drop column next_try, drop column attempts;
alter table letter_round drop column next_try, drop column tries, drop column trouble;
