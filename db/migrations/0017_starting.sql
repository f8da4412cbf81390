-- Up Migration

-- A keeper that its file is brought back to again and again.
alter table version add column starting boolean not null default false;
alter table version add constraint version_starting check (not starting or title is not null);

-- Down Migration

alter table version drop column starting;
