-- What the checks between meetings read of a meeting, as one number: what others share with it is
-- looked at again only where that changed. Empty where it was judged before; then it is looked at.
alter table audited_meeting add column shared_key bigint null;

-- The language that somebody chose; empty where they chose none.
alter table account add column language varchar(8) null;

-- What is due of a page of meetings is asked for with each page.
alter table meeting_due add index meeting_due_meeting (meeting);
