-- Somebody who stands in for a unit's warden, for a time.
alter table account
  add column deputy_unit  varchar(64)  null,
  add column deputy_from  datetime(6)  null,
  add column deputy_until datetime(6)  null,
  add column deputy_by    varchar(254) null;
