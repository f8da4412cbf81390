-- Up Migration

-- The right to add versions to a file: one holder at most.
create table checkout (
  file_id   uuid primary key references file,
  person_id uuid not null references person,
  desk      text not null default '', -- where the holder works on it, as they call it
  number    integer not null,         -- the newest version when it was taken
  source_id uuid,                     -- the older version that the holder goes on from
  at        timestamptz not null default now()
);
create index checkout_person on checkout (person_id);

-- Somebody asks the holder to give it back.
create table checkout_request (
  file_id   uuid not null references checkout on delete cascade,
  person_id uuid not null references person,
  reason    text not null,
  at        timestamptz not null default now(),
  primary key (file_id, person_id)
);

-- Whose right was taken over: what they check in next becomes a branch.
create table taken_over (
  file_id   uuid not null references file,
  person_id uuid not null references person, -- the former holder
  by_id     uuid not null references person,
  reason    text not null,
  number    integer not null,                -- the newest version when the former holder took it
  at        timestamptz not null default now(),
  primary key (file_id, person_id)
);

-- A branch goes on from a version of another line; its numbers count on from there.
alter table line add column from_id uuid;

-- Files that changed together: one note, all or nothing.
create table checkin_set (
  id         uuid primary key default gen_random_uuid(),
  project_id uuid not null references project,
  number     integer not null,
  kind       text not null check (kind in ('check-in', 'bring forward', 'delete', 'bring back')),
  note       text not null default '',
  made_by    uuid not null references person,
  made_at    timestamptz not null default now(),
  unique (project_id, number)
);
create index checkin_set_recent on checkin_set (project_id, made_at desc);
alter table project add column sets integer not null default 0;
alter table version add column set_id uuid references checkin_set;
create index version_set on version (store_id, set_id);

-- Versions from before there were sets: each is a set of its own.
do $$
declare v record; s uuid;
begin
  for v in select version.id, version.source_id, version.note, version.made_by, version.made_at, file.project_id
           from version join file on file.id = version.file_id order by version.made_at, version.id
  loop
    update project set sets = sets + 1 where id = v.project_id;
    insert into checkin_set (project_id, number, kind, note, made_by, made_at)
    select v.project_id, sets, case when v.source_id is null then 'check-in' else 'bring forward' end, v.note, v.made_by, v.made_at from project where id = v.project_id
    returning id into s;
    update version set set_id = s where id = v.id;
  end loop;
end $$;

-- Deleted files are out of the lists, and nothing else: versions stay.
alter table file add column deleted_in uuid references checkin_set;
create table deleted_file (
  set_id     uuid not null references checkin_set,
  file_id    uuid not null references file,
  brought_back boolean not null default false, -- what the set did: deleted it, or brought it back
  primary key (set_id, file_id)
);
drop index file_name;
create unique index file_name on file (project_id, coalesce(folder_id, '00000000-0000-0000-0000-000000000000'), lower(name)) where deleted_in is null;
create index file_deleted on file (project_id) where deleted_in is not null;

alter table project add column note_required boolean not null default false;
alter table folder add column note_required boolean; -- null: as the folder above, or the project

-- Who did what, for good. Each entry's hash covers its text and the hash before it.
create table ledger (
  store_id   integer not null references store,
  seq        bigint not null,
  at         timestamptz not null,
  person_id  uuid,
  act        text not null,
  project_id uuid,
  file_id    uuid,
  entry      text not null,  -- the whole entry as JSON, as it was hashed
  hash       bytea not null, -- SHA-256 of the hash before and the entry
  primary key (store_id, seq)
);
create index ledger_file on ledger (store_id, file_id, seq) where file_id is not null;
create index ledger_project on ledger (store_id, project_id, seq) where project_id is not null;
create index ledger_person on ledger (store_id, person_id, seq);

create function ledger_is_append_only() returns trigger language plpgsql as $$
begin
  raise exception 'The ledger can only be added to.';
end $$;
create trigger ledger_kept before update or delete on ledger for each row execute function ledger_is_append_only();
create trigger ledger_whole before truncate on ledger for each statement execute function ledger_is_append_only();

-- What a program may do in a person's name. Only a hash of the token is kept.
create table access_token (
  id         uuid primary key default gen_random_uuid(),
  person_id  uuid not null references person on delete cascade,
  name       text not null,
  scope      text not null check (scope in ('read', 'desk')),
  token_hash bytea not null unique,
  made_at    timestamptz not null default now(),
  expires_at timestamptz not null,
  used_at    timestamptz,
  revoked_at timestamptz
);
create index access_token_person on access_token (person_id);

-- Who looks at which file now: one row for each open page.
create table presence (
  id        uuid primary key,
  person_id uuid not null references person on delete cascade,
  file_id   uuid not null references file,
  seen_at   timestamptz not null default now()
);
create index presence_file on presence (file_id);

-- What each version needs, and which version of it was the newest when it was saved. Made once, soon after the check-in.
create table version_reference (
  store_id      integer not null,
  version_id    uuid    not null,
  place         integer not null,     -- in the order of the file
  target        text    not null,     -- as it is written there
  kind          text    not null,
  found         text    not null check (found in ('path', 'name', 'missing', 'web')),
  to_file_id    uuid references file,
  to_version_id uuid,
  primary key (store_id, version_id, place),
  foreign key (store_id, version_id) references version (store_id, id) on delete cascade
);
create index version_reference_to on version_reference (to_file_id) where to_file_id is not null;
alter table version add column referenced boolean not null default false;

-- Added by people: a drawing of a model, say.
create table file_reference (
  file_id    uuid not null references file,
  to_file_id uuid not null references file,
  says       text not null default '',
  made_by    uuid not null references person,
  made_at    timestamptz not null default now(),
  primary key (file_id, to_file_id),
  check (file_id <> to_file_id)
);
create index file_reference_to on file_reference (to_file_id);

-- Down Migration

drop table file_reference, version_reference, presence, access_token, ledger, deleted_file, taken_over, checkout_request, checkout;
drop function ledger_is_append_only;
