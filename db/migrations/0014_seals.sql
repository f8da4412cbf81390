-- Up Migration

-- What was computed is known by its hash: a kept result that was changed on the disk or by hand is computed anew.
alter table fact add column hash bytea;
update fact set hash = sha256(value);
alter table fact alter column hash set not null;
alter table comparison add column hash bytea;
update comparison set hash = sha256(convert_to(summary, 'UTF8') || value);
alter table comparison alter column hash set not null;

-- Versions of before the ledger sealed them: an entry a file says what they are from now on.
do $$
declare
  of_file record;
  last record;
  number bigint;
  before bytea;
  told timestamptz := date_trunc('milliseconds', clock_timestamp());
  said text;
begin
  for of_file in
    select v.store_id, f.id, f.project_id, f.name, count(*) as versions,
      jsonb_agg(jsonb_build_object(
        'id', v.id, 'file', v.file_id, 'line', v.line_id, 'number', v.number, 'content', encode(c.hash, 'hex'),
        'note', v.note, 'by', v.made_by,
        'at', to_char(v.made_at at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.US"Z"'),
        'parents', coalesce((
          select jsonb_agg(jsonb_build_array(p.parent_id, p.role) order by p.place)
          from version_parent p where p.store_id = v.store_id and p.version_id = v.id), '[]'::jsonb)
      ) order by v.number) as versions_sealed
    from version v
    join content c on c.store_id = v.store_id and c.id = v.content_id
    join file f on f.id = v.file_id
    group by v.store_id, f.id, f.project_id, f.name
    order by f.id
  loop
    select seq, hash into last from ledger where store_id = of_file.store_id order by seq desc limit 1;
    number := coalesce(last.seq, 0) + 1;
    before := coalesce(last.hash, decode(repeat('00', 32), 'hex'));
    said := json_build_object(
      'seq', number,
      'at', to_char(told at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"'),
      'by', null,
      'act', 'sealed',
      'subject', of_file.name || ', ' || of_file.versions || case when of_file.versions = 1 then ' version' else ' versions' end || ' of before',
      'reason', '',
      'from', 'an update of Ovrel',
      'projectId', of_file.project_id,
      'fileId', of_file.id,
      'versions', of_file.versions_sealed
    )::text;
    insert into ledger (store_id, seq, at, person_id, act, project_id, file_id, entry, hash)
    values (of_file.store_id, number, told, null, 'sealed', of_file.project_id, of_file.id, said,
      sha256(before || convert_to(said, 'UTF8')));
  end loop;
end $$;

-- Down Migration

alter table fact drop column hash;
alter table comparison drop column hash;
