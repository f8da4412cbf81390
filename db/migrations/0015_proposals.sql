-- Up Migration

-- What one person is about to do to a file and looks at beforehand: changes taken back, parts carried over, lines
-- joined. Its content is no version until it lands. One at a time for each person and file.
create table proposal (
  id          uuid primary key default gen_random_uuid(),
  store_id    integer not null references store,
  file_id     uuid not null references file,
  line_id     uuid not null references line,
  person_id   uuid not null references person on delete cascade,
  onto_id     uuid not null,               -- the newest version of the line when it was made
  source_id   uuid not null,               -- the version that it takes from
  asked       jsonb not null,
  decisions   jsonb not null default '{}', -- choice by clash
  told        jsonb not null,              -- clashes, and what could not be done
  content_id  bigint not null,
  upload_name text not null,
  made_at     timestamptz not null default now(),
  unique (file_id, person_id)
);
create index proposal_content on proposal (store_id, content_id);

alter table version_parent drop constraint version_parent_role_check;
alter table version_parent add check
  (role in ('follows', 'brought forward from', 'joined from', 'carried over from', 'taken back to'));

alter table checkin_set drop constraint checkin_set_kind_check;
alter table checkin_set add check
  (kind in ('check-in', 'bring forward', 'delete', 'bring back', 'take back', 'carry over', 'join'));

-- Down Migration

drop table proposal;
update checkin_set set kind = 'check-in' where kind in ('take back', 'carry over', 'join');
alter table checkin_set drop constraint checkin_set_kind_check;
alter table checkin_set add check (kind in ('check-in', 'bring forward', 'delete', 'bring back'));
delete from version_parent where role in ('carried over from', 'taken back to');
alter table version_parent drop constraint version_parent_role_check;
alter table version_parent add check (role in ('follows', 'brought forward from', 'joined from'));
