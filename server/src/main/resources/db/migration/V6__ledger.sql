-- Who did what, when, from where, and what it changed; each entry carries the hash of the one before.
create table ledger_entry (
  seq        bigint       not null primary key,
  at         datetime(3)  not null,
  who        varchar(254) not null,
  via        varchar(12)  not null,
  address    varchar(64)  not null,
  act        varchar(40)  not null,
  object     varchar(24)  not null,
  object_id  varchar(254) not null,
  title      varchar(500) not null,
  -- what was asked, and what changed before and after: hashed as it stands here, character by character
  details    longtext     not null,
  prev_hash  char(64)     not null,
  hash       char(64)     not null,
  constraint ledger_entry_details check (json_valid(details)),
  index ledger_entry_object (object, object_id, seq),
  index ledger_entry_who (who, seq),
  index ledger_entry_act (act, seq),
  index ledger_entry_at (at)
);

-- The other objects that an entry changed, so that one object's history is found.
create table ledger_touched (
  seq       bigint       not null,
  object    varchar(24)  not null,
  object_id varchar(254) not null,
  constraint ledger_touched_key primary key (object, object_id, seq),
  index ledger_touched_seq (seq)
);

-- The last entry, apart from the entries: one cut off the end is missed too.
create table ledger_head (
  id   int      not null primary key,
  seq  bigint   not null,
  hash char(64) not null,
  constraint ledger_head_single check (id = 1)
);
insert into ledger_head values (1, 0, repeat('0', 64));
