/** Live events: heard where they are told, and again after the connection was lost. */
import { once } from 'node:events';
import { randomUUID } from 'node:crypto';
import type { LiveEvent } from '../../contract/desk.ts';
import { db, many, transaction } from '../db/pool.ts';
import { withTestDatabase } from '../testing/database.ts';
import { closeEvents, events, tell } from './live.ts';

withTestDatabase();

const event: LiveEvent = { kind: 'files', file: null, project: randomUUID() };

/** Ends the connection on which events are listened for, as a restart of the database would. */
const cutListener = async (): Promise<number> =>
  (
    await many(
      db(),
      `select pg_terminate_backend(pid) from pg_stat_activity
       where datname = current_database() and query like 'listen %'`,
    )
  ).length;

beforeAll(async () => {
  await once(events(), 'again');
});
afterAll(closeEvents);

test('what is told in a transaction is heard once it lands, and not if it does not', async () => {
  const heard: LiveEvent[] = [];
  const note = (e: LiveEvent): void => {
    heard.push(e);
  };
  events().on('event', note);
  await transaction(async (client) => {
    await tell(client, event);
    throw new Error('thought better of it');
  }).catch(() => undefined);
  const next = once(events(), 'event');
  await transaction((client) => tell(client, { ...event, kind: 'version' }));
  await next;
  expect(heard).toEqual([{ ...event, kind: 'version' }]);
  events().off('event', note);
});

test('a lost connection is made again; who listens is told that something may have been missed, and hears what follows', async () => {
  const again = once(events(), 'again');
  expect(await cutListener()).toBe(1);
  await again;
  const next = once(events(), 'event');
  await tell(db(), event);
  expect((await next)[0]).toEqual(event);
});
