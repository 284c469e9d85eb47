-- when an answer was written, as its calendar says (DTSTAMP): of equal SEQUENCE the later counts
alter table invitation add column stamp varchar(16) null;
