-- What somebody invited is named for besides being there.
alter table meeting_person
  add column task     varchar(12) null,
  add column language varchar(35) null,
  add constraint meeting_person_task check (task in ('contributor', 'captioner', 'interpreter'));

-- What is set back in a session by itself when somebody loosens it in the service.
alter table house
  add column set_back varchar(8) not null default 'sealed',
  -- up to which severity a unit's warden waives
  add column unit_waiver_severity int not null default 2,
  -- from so many people on, announcing each coming and going disturbs
  add column announce_most int not null default 20,
  add constraint house_set_back check (set_back in ('none', 'sealed', 'all'));

-- The digits that open a meeting from a telephone's keys, beside a passcode of words; sealed.
create table phone_passcode (
  meeting varchar(64)    not null primary key,
  cipher  varbinary(255) not null,
  constraint phone_passcode_meeting foreign key (meeting) references meeting (public_id)
    on delete cascade
);

-- The unit of a unit's warden who applied a remedy.
alter table remedy_job add column by_unit varchar(64) null;
