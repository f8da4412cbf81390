-- Up Migration

-- What people say about versions. A comment may stand at a place of the drawing, and belong to the part that is there.
create table comment (
  id          uuid primary key default gen_random_uuid(),
  store_id    integer not null references store,
  file_id     uuid not null references file on delete cascade,
  version_id  uuid not null,
  parent_id   uuid references comment on delete cascade,     -- null: it begins a conversation
  person_id   uuid not null references person,
  made_at     timestamptz not null default now(),
  body        text not null,
  page        text,
  x           double precision,                              -- in page coordinates of the version that it was made on
  y           double precision,
  part        integer,                                       -- index of the part among those of that version; null for none
  about       jsonb,                                         -- what the part was: kind, name, category
  resolved_by uuid references person,
  resolved_at timestamptz
);
create index comment_file on comment (file_id, made_at);

create table comment_mention (
  comment_id uuid not null references comment on delete cascade,
  person_id  uuid not null references person on delete cascade,
  primary key (comment_id, person_id)
);
create index comment_mention_person on comment_mention (person_id);

-- Where a comment's part is in another content: found once by matching, null where it is no longer there.
create table comment_place (
  comment_id uuid not null references comment on delete cascade,
  content_id bigint not null,
  engine     text not null,
  place      jsonb,
  primary key (comment_id, content_id, engine)
);

-- Down Migration

drop table comment_place;
drop table comment_mention;
drop table comment;
