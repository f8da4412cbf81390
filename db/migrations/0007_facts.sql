-- Up Migration

-- What took too long, or too much memory, is no fact: it is tried again, after ever longer pauses.
create table fact_delay (
  store_id   integer     not null references store,
  subject    text        not null, -- the content, or both of a pair
  fact       text        not null,
  detail     text        not null,
  problem    text        not null, -- what people read meanwhile
  tries      integer     not null,
  not_before timestamptz not null,
  primary key (store_id, subject, fact, detail)
);

-- Facts have versions of their own from now on. What was computed before may have been kept for want of time or memory.
delete from fact;
delete from comparison;

-- Down Migration

drop table fact_delay;
delete from fact;
delete from comparison;
