-- Up Migration

-- Minutes without a save that end a sitting.
alter table project add column sitting_pause integer not null default 30 check (sitting_pause between 1 and 1440);

-- Down Migration

alter table project drop column sitting_pause;
