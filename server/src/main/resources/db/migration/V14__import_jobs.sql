-- An import that was asked for, with what it was given, until it is done: a server that dies leaves it to
-- the next. What it was given may hold passcodes, and is sealed.
create table import_job (
  id          varchar(64)   not null primary key,
  what        varchar(12)   not null,
  name        varchar(200)  not null,
  by_whom     varchar(254)  not null,
  zone        varchar(64)   not null,
  host        varchar(254)  not null,
  batch       bigint        null,
  forced      boolean       not null default false,
  input       longblob      null,
  state       varchar(8)    not null,
  done        int           not null default 0,
  total       int           not null default 0,
  worker      varchar(64)   null,
  lease_until datetime(3)   null,
  tries       int           not null default 0,
  trouble     varchar(2000) null,
  made_at     datetime(3)   not null,
  ended_at    datetime(3)   null,
  constraint import_job_what check (what in ('take', 'take-back')),
  constraint import_job_state check (state in ('waiting', 'running', 'done', 'failed')),
  index import_job_state (state, lease_until),
  index import_job_made (made_at)
);
