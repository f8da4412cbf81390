-- Up Migration

-- An engine without memory took sound documents for too large ones, and that was kept. What was kept of their contents is computed anew.
create temporary table mistaken on commit drop as
select distinct store_id, content_id from fact
where kind like 'look%' and position('too large to be looked into'::bytea in value) > 0;

delete from comparison k using mistaken m
where k.store_id = m.store_id and (k.content_a = m.content_id or k.content_b = m.content_id);
delete from fact f using mistaken m where f.store_id = m.store_id and f.content_id = m.content_id;
update version v set referenced = false from mistaken m
where v.store_id = m.store_id and v.content_id = m.content_id
  and not exists (select 1 from version_reference r where r.store_id = v.store_id and r.version_id = v.id);

-- Down Migration
