import { ENGINE } from '@ovrel/core';
import { many, one, type Db } from '../db/pool.ts';
import { STORE } from '../store/copy.ts';

export async function drawnValue(client: Db, versionId: string): Promise<Buffer | undefined> {
  const row = await one<{ value: Buffer }>(
    client,
    'select value from drawn_by where store_id = $1 and version_id = $2 and engine = $3',
    [STORE, versionId, ENGINE],
  );
  return row?.value;
}

export async function insertDrawn(client: Db, versionId: string, value: Uint8Array): Promise<void> {
  await client.query(
    'insert into drawn_by (store_id, version_id, engine, value) values ($1, $2, $3, $4) on conflict do nothing',
    [STORE, versionId, ENGINE, value],
  );
}

export interface WayRow {
  readonly id: string;
  /** The version before; null for the first. */
  readonly before_id: string | null;
  readonly second_id: string | null;
  readonly known: boolean;
}

/** More than a file ever has; what comes before counts as the first. */
const MOST = 5000;

/** From a version back to the nearest that is known, or to the first; oldest first. A branch goes on from its source. */
export const wayToKnown = (client: Db, versionId: string): Promise<WayRow[]> =>
  many<WayRow>(
    client,
    `
    with recursive back as (
      select $2::uuid as id, 0 as step
      union all
      select before.parent_id, back.step + 1
      from back cross join lateral (
        select p.parent_id from version_parent p
        where p.store_id = $1 and p.version_id = back.id and p.role in ('follows', 'branched off from')
        order by p.role = 'follows' desc limit 1
      ) before
      where back.step < ${MOST}
        and not exists (select 1 from drawn_by d where d.store_id = $1 and d.version_id = back.id and d.engine = $3)
    )
    select v.id, before.parent_id as before_id, second.parent_id as second_id,
      exists (select 1 from drawn_by d where d.store_id = $1 and d.version_id = v.id and d.engine = $3) as known
    from back
    join version v on v.store_id = $1 and v.id = back.id
    left join lateral (
      select p.parent_id from version_parent p join version b on b.store_id = $1 and b.id = p.parent_id
      where p.store_id = $1 and p.version_id = v.id and p.role in ('follows', 'branched off from')
      order by p.role = 'follows' desc limit 1
    ) before on true
    left join lateral (
      select p.parent_id from version_parent p join version s on s.store_id = $1 and s.id = p.parent_id
      where p.store_id = $1 and p.version_id = v.id and p.role not in ('follows', 'branched off from') limit 1
    ) second on true
    order by back.step desc`,
    [STORE, versionId, ENGINE],
  );

export interface ToldVersion {
  readonly id: string;
  readonly file_id: string;
  readonly number: number;
  readonly by_id: string;
  readonly by_name: string;
  readonly made_at: Date;
  readonly parent_id: string | null;
}

export const toldVersions = (client: Db, ids: readonly string[]): Promise<ToldVersion[]> =>
  many<ToldVersion>(
    client,
    `select v.id, v.file_id, v.number, p.id as by_id, p.name as by_name, v.made_at, follows.parent_id
     from version v join person p on p.id = v.made_by
     left join version_parent follows on follows.store_id = $1 and follows.version_id = v.id and follows.role = 'follows'
     where v.store_id = $1 and v.id = any($2)`,
    [STORE, ids],
  );
