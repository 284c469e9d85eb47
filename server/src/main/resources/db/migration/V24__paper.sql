-- Reports that are sent are printed on the paper of the country they go to.
alter table audit_schedule add column paper varchar(8) not null default 'a4';
