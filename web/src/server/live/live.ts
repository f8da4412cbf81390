/** Live events: told in the transaction that makes them true, heard by every web process, passed on to open pages. */
import { EventEmitter } from 'node:events';
import pg from 'pg';
import { liveEventSchema, type LiveEvent } from '../../contract/desk.ts';
import { config } from '../config.ts';
import { db, many, type Db } from '../db/pool.ts';
import { log } from '../log.ts';

const CHANNEL = 'ovrel_live';

/** Goes out when the caller's transaction lands. */
export async function tell(client: Db, event: LiveEvent): Promise<void> {
  await client.query('select pg_notify($1, $2)', [CHANNEL, JSON.stringify(event)]);
}

const holder = globalThis as typeof globalThis & { ovrelLive?: EventEmitter };

/** Events as they come; one connection a process, made again when it is lost. */
export function events(): EventEmitter {
  if (!holder.ovrelLive) {
    holder.ovrelLive = new EventEmitter().setMaxListeners(0);
    void listen(holder.ovrelLive);
  }
  return holder.ovrelLive;
}

async function listen(emitter: EventEmitter): Promise<void> {
  const client = new pg.Client({ connectionString: config.appUrl });
  const again = (error?: Error): void => {
    client.removeAllListeners();
    client.on('error', () => undefined);
    void client.end().catch(() => undefined);
    if (error) log.warn({ error: error.message }, 'live events stopped for a moment');
    setTimeout(() => void listen(emitter), 1000).unref();
  };
  client.on('error', again);
  client.on('notification', ({ payload }) => {
    const event = liveEventSchema.safeParse(JSON.parse(payload ?? 'null'));
    if (event.success) emitter.emit('event', event.data);
  });
  try {
    await client.connect();
    await client.query(`listen ${CHANNEL}`);
    // What was missed meanwhile is looked at again by whoever listens.
    emitter.emit('again');
  } catch (error) {
    again(error as Error);
  }
}

/** A page that is open counts as present for this long after its last sign of life, in seconds. */
const PRESENT = 50;

export async function appear(id: string, personId: string, fileId: string, projectId: string): Promise<void> {
  await db().query(
    'insert into presence (id, person_id, file_id) values ($1, $2, $3) on conflict (id) do update set seen_at = now()',
    [id, personId, fileId],
  );
  await tell(db(), { kind: 'present', file: fileId, project: projectId });
}

export const stay = (id: string): Promise<unknown> =>
  db().query('update presence set seen_at = now() where id = $1', [id]);

export async function leave(id: string, fileId: string, projectId: string): Promise<void> {
  await db().query(`delete from presence where id = $1 or seen_at < now() - interval '10 minutes'`, [id]);
  await tell(db(), { kind: 'present', file: fileId, project: projectId });
}

export const presentAt = (fileId: string): Promise<{ id: string; name: string }[]> =>
  many(
    db(),
    `
  select distinct p.id, p.name from presence x join person p on p.id = x.person_id where x.file_id = $1 and x.seen_at > now() - make_interval(secs => ${PRESENT}) order by p.name`,
    [fileId],
  );
