-- Up Migration

-- Everything that grows without bound is led by the store it belongs to, so that stores can be spread over machines.
create table store (
  id         integer primary key,
  name       text not null,
  created_at timestamptz not null default now()
);
insert into store (id, name) values (1, 'main');

-- The low byte of a chunk's id is its bucket, the first byte of its hash: both ways of looking a chunk up lead to one partition.
-- There is no unique index over hashes on purpose: two uploads that bring the same chunk at once must not wait for one another.
create table chunk_new (
  store_id integer  not null references store,
  id       bigint   not null,
  bucket   smallint not null,
  hash     bytea    not null, -- BLAKE2b, cut to 32 bytes
  size     integer  not null,
  codec    smallint not null, -- 0 as it is, 1 zstd as it arrived, 2 zstd at a high level
  stored   integer  not null, -- bytes of data
  data     bytea    not null,
  primary key (store_id, id, bucket)
) partition by hash (bucket);

do $$
begin
  for i in 0..15 loop
    execute format('create table chunk_%s partition of chunk_new for values with (modulus 16, remainder %s)', lpad(i::text, 2, '0'), i);
    execute format('alter table chunk_%s alter column data set storage external', lpad(i::text, 2, '0'));
  end loop;
end $$;

insert into chunk_new (store_id, id, bucket, hash, size, codec, stored, data)
select 1, (id << 8) | get_byte(hash, 0), get_byte(hash, 0), hash, size, codec, octet_length(data), data from chunk;

create sequence content_id;
create sequence content_revision;

create table content_new (
  store_id    integer  not null references store,
  id          bigint   not null default nextval('content_id'),
  hash        bytea    not null,            -- SHA-256
  size        bigint   not null,
  format      text,
  chunker     smallint not null,
  created_at  timestamptz not null default now(),
  -- How the bytes are had: a stream of stream_size bytes, whose last recipe_size bytes say how to rebuild a container from the rest.
  packed      boolean  not null default false,
  stream_size bigint   not null,
  recipe_size integer  not null default 0,
  base_id     bigint,                       -- the stream is a delta against the stream of this content
  depth       smallint not null default 0,  -- deltas up to the root
  chain_at    integer  not null default 0,  -- place in the chain, which decides what is a base for what
  chain_bytes bigint   not null default 0,  -- stored bytes of the deltas up to the root
  root_bytes  bigint   not null default 0,  -- stored bytes of the root
  manifest    bytea    not null,            -- 12 bytes a chunk of the stream, or of the delta: id (8) and size (4), big-endian
  revision    bigint   not null default nextval('content_revision'),
  primary key (store_id, id),
  unique (store_id, hash),
  foreign key (store_id, base_id) references content_new (store_id, id)
);

insert into content_new (store_id, id, hash, size, format, chunker, created_at, stream_size, manifest)
select 1, c.id, c.hash, c.size, c.format, c.chunker, c.created_at, c.size, coalesce((
  select string_agg(int8send((old.id << 8) | get_byte(k.hash, 0)) || substring(c.manifest from n.i * 12 + 9 for 4), ''::bytea order by n.i)
  from generate_series(0, octet_length(c.manifest) / 12 - 1) as n(i)
  cross join lateral (select ('x' || encode(substring(c.manifest from n.i * 12 + 1 for 8), 'hex'))::bit(64)::bigint as id) old
  join chunk k on k.id = old.id), ''::bytea)
from content c;
select setval('content_id', greatest((select max(id) from content), 1));

alter table version add column store_id integer not null default 1 references store;
alter table version drop constraint version_content_id_fkey;
alter table version drop constraint version_parent_id_fkey;
alter table version drop constraint version_source_id_fkey;
alter table version drop constraint version_pkey;
alter table version add primary key (store_id, id);
alter table version add foreign key (store_id, parent_id) references version (store_id, id);
alter table version add foreign key (store_id, source_id) references version (store_id, id);
alter table version drop constraint version_line_id_number_key;
alter table version add unique (store_id, line_id, number);
alter table fact drop constraint fact_content_id_fkey;
alter table comparison drop constraint comparison_content_a_fkey;
alter table comparison drop constraint comparison_content_b_fkey;

drop table content;
drop table chunk;
alter table content_new rename to content;
alter table chunk_new rename to chunk;
create index chunk_hash on chunk (store_id, hash);
create index content_base on content (store_id, base_id) where base_id is not null;
create index content_revision_at on content (store_id, revision);

drop index version_file;
create index version_file on version (store_id, file_id, made_at);
drop index version_content;
create index version_content on version (store_id, content_id);
alter table version add foreign key (store_id, content_id) references content (store_id, id);

alter table fact add column store_id integer not null default 1 references store;
alter table fact drop constraint fact_pkey;
alter table fact add primary key (store_id, content_id, kind, engine);
alter table fact add foreign key (store_id, content_id) references content (store_id, id) on delete cascade;

alter table comparison add column store_id integer not null default 1 references store;
alter table comparison drop constraint comparison_pkey;
alter table comparison add primary key (store_id, content_a, content_b, options, engine);
drop index comparison_b;
create index comparison_b on comparison (store_id, content_b);
alter table comparison add foreign key (store_id, content_a) references content (store_id, id) on delete cascade;
alter table comparison add foreign key (store_id, content_b) references content (store_id, id) on delete cascade;

-- Settings of deflate that gave the same bytes again, by program.
create table deflate_hint (
  store_id integer not null references store,
  program  text    not null,
  settings jsonb   not null,
  primary key (store_id, program)
);

-- Chunks that nothing needed when they were looked at. Uploads no longer take them up; once every upload that could have is over
-- (no transaction before safe_after runs) and the grace period has passed, they are removed.
create table condemned (
  store_id   integer     not null references store,
  chunk_id   bigint      not null,
  bucket     smallint    not null,
  at         timestamptz not null default now(),
  safe_after bigint,
  primary key (store_id, chunk_id, bucket),
  foreign key (store_id, chunk_id, bucket) references chunk (store_id, id, bucket) on delete cascade
);

-- Background work as people see it. The queue itself (pg-boss) has tables of its own.
create table job (
  id           uuid primary key default gen_random_uuid(),
  store_id     integer not null default 1 references store,
  kind         text not null,
  key          text not null,          -- work on the same thing waits only once
  title        text not null,
  data         jsonb not null default '{}',
  state        text not null default 'waiting' check (state in ('waiting', 'running', 'done', 'failed', 'cancelled')),
  done         bigint not null default 0,
  total        bigint,
  unit         text not null default '',
  doing        text not null default '',
  report       jsonb,
  problem      text,
  attempts     integer not null default 0,
  cancelling   boolean not null default false,
  requested_by uuid references person,
  created_at   timestamptz not null default now(),
  started_at   timestamptz,
  seen_at      timestamptz,
  ended_at     timestamptz
);
create unique index job_waiting on job (store_id, kind, key) where state = 'waiting';
create index job_recent on job (store_id, created_at desc);
create index job_open on job (store_id, state) where state in ('waiting', 'running');
create index job_ended on job (store_id, kind, ended_at desc);

-- Worker processes that give signs of life.
create table worker (
  id      uuid primary key,
  seen_at timestamptz not null default now()
);

-- What each content costs, and the figures of the Storage page. Made anew by the tally.
create table content_cost (
  store_id   integer not null references store,
  content_id bigint  not null,
  own        bigint  not null, -- stored bytes that no earlier content had
  shared     bigint  not null, -- bytes of the content that earlier contents had already
  recipes    bigint  not null, -- bytes of its manifest and row
  primary key (store_id, content_id),
  foreign key (store_id, content_id) references content (store_id, id) on delete cascade
);
create table storage_report (
  store_id integer     not null references store,
  at       timestamptz not null default now(),
  value    jsonb       not null,
  primary key (store_id, at)
);

-- Counted where they change, not at every look.
alter table project add column files integer not null default 0;
alter table project add column changed_at timestamptz;
update project p set files = (select count(*) from file f where f.project_id = p.id),
  changed_at = (select max(v.made_at) from file f join version v on v.file_id = f.id where f.project_id = p.id);

-- Lists of a folder's files need the newest version of each at once.
create index version_newest on version (store_id, line_id, number desc) include (id);
-- The rail wants keepers and versions brought forward out of very many.
create index version_special on version (store_id, line_id) where title is not null or source_id is not null;

-- Down Migration

select 1 / 0; -- what was opened or stored as a difference has no older form: restore from a backup instead
