-- Up Migration

-- Who may do what where. The nearest place that says anything decides: the folder, a folder above it, or the project;
-- there, what it says of the person, or else of everybody. Where nothing is said, the person's role in Ovrel decides.
create table access (
  id         uuid primary key default gen_random_uuid(),
  project_id uuid not null references project,
  folder_id  uuid references folder,                     -- null: the project itself
  person_id  uuid references person on delete cascade,   -- null: everybody of whom nothing is said there
  rights     text[] not null,
  set_by     uuid not null references person,
  set_at     timestamptz not null default now()
);
create unique index access_place on access (project_id, coalesce(folder_id, '00000000-0000-0000-0000-000000000000'), coalesce(person_id, '00000000-0000-0000-0000-000000000000'));
create index access_person on access (person_id);

-- A guest sees only what a project opens to them.
alter table person drop constraint person_role_check;
alter table person add constraint person_role_check check (role in ('administrator', 'lead', 'editor', 'reader', 'guest'));

-- Down Migration

drop table access;
update person set role = 'reader' where role = 'guest';
alter table person drop constraint person_role_check;
alter table person add constraint person_role_check check (role in ('administrator', 'lead', 'editor', 'reader'));
