/** Live events: told in the transaction that makes them true, heard by every web process, passed on to open pages. */
import { EventEmitter } from 'node:events';
import pg from 'pg';
import { liveEventSchema, type LiveEvent } from '../../contract/desk.ts';
import { config } from '../config.ts';
import { db, type Db } from '../db/pool.ts';
import { log } from '../log.ts';
import { forget, single } from '../single.ts';
import { notify, putPresence, touchPresence, dropPresence, listenForEvents, presentRows } from './rows.ts';

/** Goes out when the caller's transaction lands. */
export async function tell(client: Db, event: LiveEvent): Promise<void> {
  await notify(client, JSON.stringify(event));
}

/** How long until a lost connection is made again, in milliseconds. */
const PAUSE = 1000;
const LISTENER = 'live events';

/** Events as they come; one connection a process, made again when it is lost. */
export const events = (): EventEmitter => single(LISTENER, () => new Listener()).emitter;

export async function closeEvents(): Promise<void> {
  await (forget(LISTENER) as Listener | undefined)?.end();
}

class Listener {
  readonly emitter = new EventEmitter().setMaxListeners(0);
  private client: pg.Client | undefined;
  private ended = false;
  private timer: NodeJS.Timeout | undefined;

  constructor() {
    void this.listen();
  }

  async end(): Promise<void> {
    this.ended = true;
    clearTimeout(this.timer);
    await this.client?.end().catch(() => undefined);
  }

  private async listen(): Promise<void> {
    const client = new pg.Client({ connectionString: config.appUrl });
    this.client = client;
    client.on('error', (error) => this.lost(client, error));
    client.on('notification', ({ payload }) => {
      const event = liveEventSchema.safeParse(JSON.parse(payload ?? 'null'));
      if (event.success) this.emitter.emit('event', event.data);
    });
    try {
      await client.connect();
      await listenForEvents(client);
      // What was missed meanwhile is looked at again by whoever listens.
      this.emitter.emit('again');
    } catch (error) {
      this.lost(client, error as Error);
    }
  }

  private lost(client: pg.Client, error: Error): void {
    client.removeAllListeners();
    client.on('error', () => undefined);
    void client.end().catch(() => undefined);
    if (this.ended) return;
    log.warn({ error: error.message }, 'live events stopped for a moment');
    this.timer = setTimeout(() => void this.listen(), PAUSE).unref();
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
