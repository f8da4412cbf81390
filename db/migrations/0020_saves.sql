-- Up Migration

-- Work that is saved as it goes. Where saves do not count at once they stand on a line of their own beside the main one.
alter table line add column saves_of uuid references person;
create index line_saves on line (file_id, saves_of) where saves_of is not null and closed_at is null;
alter table project add column saves_count boolean not null default false;
alter table folder add column saves_count boolean; -- null: as the folder above, or the project
alter table file add column saves_count boolean;   -- null: as its folder, or the project

alter table checkin_set drop constraint checkin_set_kind_check;
alter table checkin_set add check
  (kind in ('check-in', 'bring forward', 'delete', 'bring back', 'take back', 'carry over', 'join', 'saves'));

-- Down Migration

update checkin_set set kind = 'check-in' where kind = 'saves';
alter table checkin_set drop constraint checkin_set_kind_check;
alter table checkin_set add check
  (kind in ('check-in', 'bring forward', 'delete', 'bring back', 'take back', 'carry over', 'join'));
alter table file drop column saves_count;
alter table folder drop column saves_count;
alter table project drop column saves_count;
drop index line_saves;
alter table line drop column saves_of;
