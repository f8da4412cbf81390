-- Up Migration

-- A closed line is kept, and gets no new versions until it is opened again.
alter table line add column closed_at timestamptz;
create unique index line_name on line (file_id, lower(name));

-- The first version of a file that was made from a version of another one.
alter table version_parent drop constraint version_parent_role_check;
alter table version_parent add check
  (role in ('follows', 'brought forward from', 'joined from', 'carried over from', 'taken back to', 'branched off from'));

-- Down Migration

delete from version_parent where role = 'branched off from';
alter table version_parent drop constraint version_parent_role_check;
alter table version_parent add check
  (role in ('follows', 'brought forward from', 'joined from', 'carried over from', 'taken back to'));
drop index line_name;
alter table line drop column closed_at;
