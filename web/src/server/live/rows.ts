/** Rows of who looks at what, and what open pages are told. */
import { many, type Db } from '../db/pool.ts';

const CHANNEL = 'ovrel_live';

export async function listenForEvents(client: Db): Promise<void> {
  await client.query(`listen ${CHANNEL}`);
}

export async function notify(client: Db, event: string): Promise<void> {
  await client.query('select pg_notify($1, $2)', [CHANNEL, event]);
}

export async function putPresence(client: Db, id: string, personId: string, fileId: string): Promise<void> {
  await client.query(
    'insert into presence (id, person_id, file_id) values ($1, $2, $3) on conflict (id) do update set seen_at = now()',
    [id, personId, fileId],
  );
}

export async function touchPresence(client: Db, id: string): Promise<void> {
  await client.query('update presence set seen_at = now() where id = $1', [id]);
}

export async function dropPresence(client: Db, id: string): Promise<void> {
  await client.query(`delete from presence where id = $1 or seen_at < now() - interval '10 minutes'`, [id]);
}

/** A page that is open counts as present for this long after its last sign of life, in seconds. */
const PRESENT = 50;

export const presentRows = (client: Db, fileId: string): Promise<{ id: string; name: string }[]> =>
  many(
    client,
    `
  select distinct p.id, p.name from presence x join person p on p.id = x.person_id where x.file_id = $1 and x.seen_at > now() - make_interval(secs => ${PRESENT}) order by p.name`,
    [fileId],
  );
