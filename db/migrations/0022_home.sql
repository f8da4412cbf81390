-- Up Migration

-- Files that somebody follows, or does not although they worked on them.
create table follow (
  person_id uuid not null references person on delete cascade,
  file_id   uuid not null references file on delete cascade,
  follows   boolean not null,
  primary key (person_id, file_id)
);
-- When somebody was on the first page last, and when before: what came since that is new to them.
create table visit (
  person_id uuid primary key references person on delete cascade,
  here_at   timestamptz not null default now(),
  before_at timestamptz
);
-- What a title stands for, at more length.
alter table version add column description text not null default '';

-- Down Migration

alter table version drop column description;
drop table visit, follow;
