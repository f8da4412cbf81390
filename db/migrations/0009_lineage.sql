-- Up Migration

-- Where a version comes from: one parent or two, each with its role.
create table version_parent (
  store_id   integer  not null,
  version_id uuid     not null,
  place      smallint not null check (place in (0, 1)),
  parent_id  uuid     not null,
  role       text     not null check (role in ('follows', 'brought forward from', 'joined from')),
  primary key (store_id, version_id, place),
  foreign key (store_id, version_id) references version (store_id, id) on delete cascade
);
create index version_parent_parent on version_parent (store_id, parent_id);

insert into version_parent (store_id, version_id, place, parent_id, role)
select store_id, id, 0, parent_id, 'follows' from version where parent_id is not null;

insert into version_parent (store_id, version_id, place, parent_id, role)
select store_id, id, case when parent_id is null then 0 else 1 end, source_id, 'brought forward from'
from version where source_id is not null;

alter table version drop column parent_id;
alter table version drop column source_id;

-- Folders are counted by the files in them.
create index file_folder on file (folder_id) where deleted_in is null;

-- Down Migration

drop index file_folder;
alter table version add column parent_id uuid;
alter table version add column source_id uuid;
update version set
  parent_id = (select parent_id from version_parent p where p.store_id = version.store_id and p.version_id = version.id and p.role = 'follows'),
  source_id = (select parent_id from version_parent p where p.store_id = version.store_id and p.version_id = version.id and p.role = 'brought forward from');
drop table version_parent;
