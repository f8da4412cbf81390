-- Up Migration

-- Who has a line checked out; that of a file is its main line.
alter table checkout add column line_id uuid references line;
update checkout c set line_id = l.id from line l where l.file_id = c.file_id and l.position = 0;
alter table checkout alter column line_id set not null;
alter table checkout_request drop constraint checkout_request_file_id_fkey;
alter table checkout_request drop constraint checkout_request_pkey;
alter table checkout drop constraint checkout_pkey;
alter table checkout add primary key (line_id);
create index checkout_file on checkout (file_id);

alter table checkout_request add column line_id uuid;
update checkout_request r set line_id = c.line_id from checkout c where c.file_id = r.file_id;
alter table checkout_request drop column file_id;
alter table checkout_request add primary key (line_id, person_id);
alter table checkout_request add foreign key (line_id) references checkout on delete cascade;

alter table taken_over add column line_id uuid references line;
update taken_over t set line_id = l.id from line l where l.file_id = t.file_id and l.position = 0;
alter table taken_over drop constraint taken_over_pkey;
alter table taken_over alter column line_id set not null;
alter table taken_over add primary key (line_id, person_id);

-- Down Migration

delete from checkout c using line l where l.id = c.line_id and l.position > 0;
delete from taken_over t using line l where l.id = t.line_id and l.position > 0;
alter table taken_over drop constraint taken_over_pkey;
alter table taken_over drop column line_id;
alter table taken_over add primary key (file_id, person_id);
alter table checkout_request drop constraint checkout_request_line_id_fkey;
alter table checkout_request add column file_id uuid;
update checkout_request r set file_id = c.file_id from checkout c where c.line_id = r.line_id;
alter table checkout_request drop constraint checkout_request_pkey;
alter table checkout_request drop column line_id;
alter table checkout_request add primary key (file_id, person_id);
drop index checkout_file;
alter table checkout drop constraint checkout_pkey;
alter table checkout drop column line_id;
alter table checkout add primary key (file_id);
alter table checkout_request add foreign key (file_id) references checkout on delete cascade;
