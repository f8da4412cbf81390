-- Up Migration

-- What came of check-ins whose senders may ask again, because the answer was lost on its way.
create table attempt (
  person_id uuid  not null references person on delete cascade,
  key       uuid  not null,
  -- What was attempted, so that a key is not taken for something else.
  what      text  not null,
  outcome   jsonb not null,
  at        timestamptz not null default now(),
  primary key (person_id, key)
);
create index attempt_at on attempt (at);

-- Down Migration

drop table attempt;
