-- Up Migration

-- A role is stored by its name, so that a right that comes later reaches those who have the role already.
alter table access add column role text;
alter table access alter column rights drop not null;
update access set role = case
    when rights <@ array['see', 'see old versions', 'check out', 'bring forward', 'take over', 'change state', 'erase', 'manage']
     and rights @> array['see', 'see old versions', 'check out', 'bring forward', 'take over', 'change state', 'erase', 'manage'] then 'lead'
    when rights <@ array['see', 'see old versions', 'check out', 'bring forward'] and rights @> array['see', 'see old versions', 'check out', 'bring forward'] then 'editor'
    when rights <@ array['see', 'see old versions', 'change state'] and rights @> array['see', 'see old versions', 'change state'] then 'checker'
    when rights <@ array['see', 'see old versions'] and rights @> array['see', 'see old versions'] then 'reader'
    when rights <@ array['see'] and rights @> array['see'] then 'newest only'
    when rights = '{}' then 'nothing'
  end;
update access set rights = null where role is not null;
alter table access add constraint access_says check ((role is null) <> (rights is null));

-- Down Migration

alter table access drop constraint access_says;
update access set rights = case role
    when 'lead' then array['see', 'see old versions', 'check out', 'bring forward', 'take over', 'change state', 'erase', 'manage']
    when 'editor' then array['see', 'see old versions', 'check out', 'bring forward']
    when 'checker' then array['see', 'see old versions', 'change state']
    when 'reader' then array['see', 'see old versions']
    when 'newest only' then array['see']
    else '{}'
  end where rights is null;
alter table access alter column rights set not null;
alter table access drop column role;
