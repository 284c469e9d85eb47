-- Sessions that linked services hold.
alter table floor_session
  add column service bigint null,
  add constraint floor_session_service foreign key (service) references conference_service (id);

-- Services that wait for a second warden before they are spoken with.
alter table conference_service
  add column proposed_by varchar(254) null,
  add column proposed_at datetime(6) null,
  add column proposed_name varchar(60) null;
