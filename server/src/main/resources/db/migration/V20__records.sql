-- What is known of a session is held for a legal reason: it is not let go while this stands.
create table floor_hold (
  session varchar(60)   not null primary key,
  reason  varchar(1000) not null,
  by_whom varchar(254)  not null,
  at      datetime(3)   not null,
  constraint floor_hold_session foreign key (session) references floor_session (id) on delete cascade
);
