-- Up Migration

-- Who drew each part of a version (core/src/history), made once from that of the version before.
create table drawn_by (
  store_id   integer not null,
  version_id uuid    not null,
  engine     text    not null,
  value      bytea   not null, -- zstd of JSON
  primary key (store_id, version_id, engine),
  foreign key (store_id, version_id) references version (store_id, id) on delete cascade
);

-- Down Migration

drop table drawn_by;
