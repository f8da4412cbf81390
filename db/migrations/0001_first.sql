-- Up Migration

create table person (
  id            uuid primary key default gen_random_uuid(),
  email         text not null,
  name          text not null,
  role          text not null check (role in ('administrator', 'lead', 'editor', 'reader')),
  password_hash text not null,
  created_at    timestamptz not null default now()
);
create unique index person_email on person (lower(email));

-- Only a hash of the token is kept: a copy of the table lets nobody in.
create table session (
  token_hash bytea primary key,
  person_id  uuid not null references person on delete cascade,
  created_at timestamptz not null default now(),
  seen_at    timestamptz not null default now(),
  expires_at timestamptz not null
);
create index session_expiry on session (expires_at);

create table project (
  id          uuid primary key default gen_random_uuid(),
  name        text not null,
  created_by  uuid not null references person,
  created_at  timestamptz not null default now()
);
create unique index project_name on project (lower(name));

create table folder (
  id          uuid primary key default gen_random_uuid(),
  project_id  uuid not null references project,
  parent_id   uuid references folder,
  name        text not null,
  created_by  uuid not null references person,
  created_at  timestamptz not null default now()
);
create unique index folder_name on folder (project_id, coalesce(parent_id, '00000000-0000-0000-0000-000000000000'), lower(name));

create table file (
  id          uuid primary key default gen_random_uuid(),
  project_id  uuid not null references project,
  folder_id   uuid references folder,
  name        text not null,
  created_by  uuid not null references person,
  created_at  timestamptz not null default now()
);
create unique index file_name on file (project_id, coalesce(folder_id, '00000000-0000-0000-0000-000000000000'), lower(name));
create index file_name_search on file (lower(name) text_pattern_ops);

-- An ordered run of versions of one file. Position 0 is the main line.
create table line (
  id          uuid primary key default gen_random_uuid(),
  file_id     uuid not null references file,
  name        text not null,
  position    integer not null,
  unique (file_id, position)
);

-- Hashes of chunks are BLAKE2b, cut to 32 bytes. The index is not unique on purpose: two uploads that
-- bring the same chunk at once must not wait for one another; a chunk stored twice is harmless.
create sequence chunk_id;
create table chunk (
  id     bigint primary key default nextval('chunk_id'),
  hash   bytea not null,
  size   integer not null,
  codec  smallint not null, -- 0 as it is, 1 zstd
  data   bytea not null
);
alter table chunk alter column data set storage external;
create index chunk_hash on chunk (hash);

create table content (
  id         bigint primary key generated always as identity,
  hash       bytea not null unique, -- SHA-256
  size       bigint not null,
  chunker    smallint not null,
  manifest   bytea not null,        -- 12 bytes a chunk: id (8) and size (4), big-endian
  format     text,
  created_at timestamptz not null default now()
);

create table version (
  id          uuid primary key default gen_random_uuid(),
  file_id     uuid not null references file,
  line_id     uuid not null references line,
  number      integer not null,
  content_id  bigint not null references content,
  parent_id   uuid references version,
  source_id   uuid references version, -- brought forward from
  kind        text not null check (kind in ('check-in', 'autosave', 'backup')),
  note        text not null default '',
  title       text,                    -- a keeper has one
  upload_name text not null,
  made_by     uuid not null references person,
  made_at     timestamptz not null default now(),
  unique (line_id, number)
);
create index version_file on version (file_id);
create index version_content on version (content_id);

-- What was computed about a content. Immutable; another engine version computes anew.
create table fact (
  content_id bigint not null references content on delete cascade,
  kind       text not null,
  engine     text not null,
  value      bytea not null,
  made_at    timestamptz not null default now(),
  primary key (content_id, kind, engine)
);

create table comparison (
  content_a  bigint not null references content on delete cascade,
  content_b  bigint not null references content on delete cascade,
  options    text not null, -- what else the result depends on
  engine     text not null,
  summary    text not null,
  value      bytea not null, -- zstd of JSON
  made_at    timestamptz not null default now(),
  primary key (content_a, content_b, options, engine)
);
create index comparison_b on comparison (content_b);

-- Attempts to sign in (rate-limiter-flexible).
create table sign_in_attempt (
  key    varchar(255) primary key,
  points integer not null default 0,
  expire bigint
);

-- Down Migration

drop table sign_in_attempt, comparison, fact, version, content, chunk, line, file, folder, project, session, person;
drop sequence chunk_id;
