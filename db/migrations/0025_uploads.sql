-- Up Migration

-- A content on its way, part by part: what has arrived stays when the connection breaks.
create table upload (
  id uuid primary key default gen_random_uuid(),
  person_id uuid not null references person on delete cascade,
  size bigint not null check (size >= 0),
  received bigint not null default 0 check (received between 0 and size),
  touched_at timestamptz not null default now()
);
create index upload_of_person on upload (person_id, touched_at);
create index upload_by_age on upload (touched_at);

create table upload_part (
  upload_id uuid not null references upload on delete cascade,
  at bigint not null,
  bytes bytea not null,
  primary key (upload_id, at)
);
-- Most contents are packed already.
alter table upload_part alter column bytes set storage external;

-- Down Migration

drop table upload_part;
drop table upload;
