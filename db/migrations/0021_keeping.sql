-- Up Migration

-- What is kept how long, said of a project or one of its folders, for one kind of content or for all.
create table keeping_rule (
  id         uuid primary key default gen_random_uuid(),
  project_id uuid not null references project,
  folder_id  uuid references folder,             -- null: all of the project
  content    text,                               -- a kind of content; null: all
  rule       jsonb not null,                     -- steps by kind of version (core/src/history/keeping/rule.ts)
  changed_by uuid not null references person,
  changed_at timestamptz not null default now()
);
create unique index keeping_rule_place on keeping_rule
  (project_id, coalesce(folder_id, '00000000-0000-0000-0000-000000000000'), coalesce(content, ''));

alter table version add column titled_at timestamptz;
update version set titled_at = made_at where title is not null;

-- What was swept, for those who ask for it by its id, and for who drew what.
create table swept_version (
  store_id  integer not null references store,
  id        uuid    not null,
  file_id   uuid    not null references file,
  line_id   uuid    not null references line,
  number    integer not null,
  kind      text    not null,
  made_by   uuid    not null references person,
  made_at   timestamptz not null,
  follows   uuid,
  hash      bytea   not null,
  size      bigint  not null,
  swept_at  timestamptz not null default now(),
  primary key (store_id, id)
);
create index swept_version_line on swept_version (store_id, line_id, number);

-- What follows a version that was swept follows the one before it now. Its seal is over what it was made of.
alter table version_parent alter column parent_id drop not null;
alter table version_parent add column was_id uuid;

-- Nothing goes that somebody says something of, or refers to, in the same moment.
alter table comment add foreign key (store_id, version_id) references version (store_id, id) not valid;
alter table version_reference add foreign key (store_id, to_version_id) references version (store_id, id) not valid;

-- Old versions that somebody fetched: keeping rules are tried on them.
create table fetched_old (
  store_id   integer not null references store,
  version_id uuid    not null,
  person_id  uuid    not null references person,
  at         timestamptz not null default now()
);
create index fetched_old_version on fetched_old (store_id, version_id);

-- Down Migration

drop table fetched_old;
alter table version_reference drop constraint version_reference_store_id_to_version_id_fkey;
alter table comment drop constraint comment_store_id_version_id_fkey;
update version_parent set parent_id = was_id where was_id is not null and parent_id is null;
alter table version_parent drop column was_id;
alter table version_parent alter column parent_id set not null;
drop table swept_version;
alter table version drop column titled_at;
drop table keeping_rule;
