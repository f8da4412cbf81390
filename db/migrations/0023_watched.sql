-- Up Migration

-- Folders on the server that are looked at at intervals: what is new in them becomes backups.
create table watched_folder (
  id            uuid primary key default gen_random_uuid(),
  path          text    not null unique,   -- beneath the root that the installation allows
  project_id    uuid    not null references project,
  folder_id     uuid    references folder,
  every_minutes integer not null check (every_minutes between 1 and 10080),
  set_by        uuid    not null references person,
  set_at        timestamptz not null default now(),
  looked_at     timestamptz,
  problem       text,                      -- a code; null: the last look went well
  problems      jsonb   not null default '[]' -- files that could not be taken, with why
);
-- What a look saw last, and what was taken of it.
create table watched_file (
  watched_id uuid    not null references watched_folder on delete cascade,
  path       text    not null,
  size       bigint  not null,
  changed_at double precision not null,    -- milliseconds since 1970, as the file system says
  inode      text    not null,
  taken      boolean not null default false,
  primary key (watched_id, path)
);

-- Down Migration

drop table watched_file, watched_folder;
