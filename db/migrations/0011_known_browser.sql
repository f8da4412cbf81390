-- Up Migration

-- Browsers in which somebody has signed in: their wrong attempts are counted apart from those of strangers.
create table known_browser (
  token_hash bytea primary key,
  person_id  uuid not null references person on delete cascade,
  made_at    timestamptz not null default now()
);
create index known_browser_person on known_browser (person_id);

-- Down Migration

drop table known_browser;
