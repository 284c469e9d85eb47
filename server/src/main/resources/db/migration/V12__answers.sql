-- when an answer was written, as its calendar says (DTSTAMP): of equal SEQUENCE the later counts
alter table invitation add column stamp varchar(16) null;

-- what a changed invitation says was changed, and letters to those who are no longer invited
alter table letter_round add column changes text null;
alter table letter_round drop constraint letter_round_sort;
alter table letter_round
  add constraint letter_round_sort check (sort in ('NEW', 'CHANGED', 'CANCELLED', 'WITHDRAWN'));

-- since when what was asked of a host is found no longer: an undone remedy asks again what it answered
alter table host_request_item add column mended_at datetime(3) null;
