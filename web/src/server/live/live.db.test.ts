/** Live events: heard where they are told, and again after the connection was lost. */
import { once } from 'node:events';
import { randomUUID } from 'node:crypto';
import type { Person } from '../../contract/api.ts';
import type { LiveEvent } from '../../contract/desk.ts';
import { db, many, transaction } from '../db/pool.ts';
import { withOrigin } from '../ledger/origin.ts';
import { setAccess } from '../people/granting.ts';
import { makePerson } from '../people/managing.ts';
import { callerOf, signIn, signOut } from '../people/service.ts';
import { makeFolder, makeProject } from '../projects/service.ts';
import { incoming, makeTestPerson, withTestDatabase } from '../testing/database.ts';
import { makeFile } from '../versions/checkin.ts';
import { closeEvents, events, tell } from './live.ts';
import { eventStream } from './stream.ts';

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

describe('the stream of an open page', () => {
  let lead: Person;
  let ines: Person;
  let projectId: string;
  let closed: string;
  let open: string;
  beforeAll(async () => {
    lead = await makeTestPerson('lead');
    ines = await makeTestPerson('editor', 'Ines');
    projectId = (await makeProject(lead, 'Landing')).id;
    const folderId = (await makeFolder(lead, projectId, null, 'Rates')).id;
    const add = async (name: string, folder: string | null): Promise<string> =>
      (await makeFile(lead, projectId, folder, undefined, incoming(name, name), { note: '' })).file.id;
    [closed, open] = [await add('rates.txt', folderId), await add('plan.txt', null)];
    await setAccess(lead, { projectId, folderId }, ines.id, []);
  });
  const of = (file: string | null): LiveEvent => ({ kind: 'version', file, project: projectId });

  /** What is told, as it comes; false once the stream has ended. */
  async function listening(wanted: object, by = ines): Promise<() => Promise<LiveEvent | false>> {
    const reader = (await eventStream(by, wanted, new AbortController().signal)).getReader();
    return async () => {
      for (;;) {
        const { done, value } = await reader.read();
        if (done) return false;
        const data = /^data: (.*)$/m.exec(new TextDecoder().decode(value))?.[1];
        const event = data === undefined ? undefined : (JSON.parse(data) as LiveEvent);
        if (event && event.kind !== 'present') return event;
      }
    };
  }

  test('tells nothing of files that are closed to who listens', async () => {
    const next = await listening({ project: projectId });
    await tell(db(), of(closed));
    await tell(db(), of(open));
    expect(await next()).toEqual(of(open));
  });

  test('ends at the first event after the right to see was withdrawn', async () => {
    const next = await listening({ file: open });
    await tell(db(), of(open));
    expect(await next()).toMatchObject({ file: open });
    await setAccess(lead, { projectId, folderId: null }, ines.id, []);
    await tell(db(), of(open));
    expect(await next()).toBe(false);
    await setAccess(lead, { projectId, folderId: null }, ines.id, null);
  });

  test('ends at the first event after signing out', async () => {
    const administrator = await makeTestPerson('administrator');
    const email = 'ruth@quillmere.example';
    const password = 'a long enough password';
    const { id } = await makePerson(administrator, { name: 'Ruth', email, password, role: 'reader' });
    await db().query('update person set password_is_temporary = false where id = $1', [id]);
    const { token } = await signIn(email, password);
    const next = await withOrigin(new Headers(), async () => {
      const ruth = await callerOf({ cookie: token, authorization: null, changes: false });
      return listening({ project: projectId }, ruth);
    });
    await tell(db(), of(open));
    expect(await next()).toEqual(of(open));
    await signOut(token);
    await tell(db(), of(open));
    expect(await next()).toBe(false);
  });
});
