/** Live events: told in the transaction that makes them true, heard by every web process, passed on to open pages. */
import { EventEmitter } from 'node:events';
import pg from 'pg';
import { liveEventSchema, type LiveEvent } from '../../contract/desk.ts';
import { config } from '../config.ts';
import { db, type Db } from '../db/pool.ts';
import { log } from '../log.ts';
import { single } from '../single.ts';
import { notify, putPresence, touchPresence, dropPresence, presentRows, CHANNEL } from './rows.ts';

/** Goes out when the caller's transaction lands. */
export async function tell(client: Db, event: LiveEvent): Promise<void> {
  await notify(client, JSON.stringify(event));
}

/** Events as they come; one connection a process, made again when it is lost. */
export const events = (): EventEmitter =>
  single('live events', () => {
    const emitter = new EventEmitter().setMaxListeners(0);
    void listen(emitter);
    return emitter;
  });

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

export async function appear(id: string, personId: string, fileId: string, projectId: string): Promise<void> {
  await putPresence(db(), id, personId, fileId);
  await tell(db(), { kind: 'present', file: fileId, project: projectId });
}

export const stay = (id: string): Promise<unknown> => touchPresence(db(), id);

export async function leave(id: string, fileId: string, projectId: string): Promise<void> {
  await dropPresence(db(), id);
  await tell(db(), { kind: 'present', file: fileId, project: projectId });
}

export const presentAt = (fileId: string): Promise<{ id: string; name: string }[]> => presentRows(db(), fileId);
