-- Up Migration

-- What a person has set for themselves, such as what they do not want to see in comparisons.
create table preference (
  person_id uuid not null references person on delete cascade,
  name      text not null,
  value     jsonb not null,
  set_at    timestamptz not null default now(),
  primary key (person_id, name)
);

-- Down Migration

drop table preference;
