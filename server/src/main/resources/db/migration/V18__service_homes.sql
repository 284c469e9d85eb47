-- Where new meetings are made: of one unit, or, with an empty one, of everybody else.
create table service_home (
  unit    varchar(64) not null primary key,
  service bigint      not null,
  constraint service_home_service foreign key (service) references conference_service (id)
);

-- When it was noticed last that a service was not read for longer than is allowed.
alter table conference_service add column unread_noted_at datetime(6) null;

-- A complaint brings a link: the meeting is found by it.
alter table meeting_held add index meeting_held_link (link(191));
