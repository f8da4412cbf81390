import { z } from 'zod';
import type { Person } from '../../contract/api.ts';
import { db, one, transaction } from '../db/pool.ts';
import { makeProject } from '../projects/service.ts';
import { cancelJob, getJob, getStorage, listJobs, startJob } from '../storage/service.ts';
import { countRows, incoming, makeTestPerson, withTestDatabase } from '../testing/database.ts';
import { checkIn, makeFile } from '../versions/checkin.ts';
import { thumbnailSoon } from '../versions/prepare.ts';
import { versionRow } from '../versions/rows.ts';
import { enqueue } from './queue.ts';
import { buryDead, runJob, runWaitingJobs, startWorker } from './run.ts';
import type { JobKind } from './job.ts';
import { jobKind } from './registry.ts';

withTestDatabase();

let lead: Person;
let editor: Person;
let reader: Person;
const replaced = new Map<string, JobKind['run']>();
/** Has a kind of work do something else until the test is over. */
function instead(kind: string, run: JobKind['run']): void {
  const known = jobKind(kind);
  if (!replaced.has(kind)) replaced.set(kind, known.run);
  Object.assign(known, { run, schema: z.record(z.string(), z.string()) });
}
const schemas = new Map(['scrub', 'tally', 'collect'].map((kind) => [kind, jobKind(kind).schema]));

beforeAll(async () => {
  [lead, editor, reader] = [
    await makeTestPerson('lead'),
    await makeTestPerson('editor'),
    await makeTestPerson('reader'),
  ];
});
afterEach(() => {
  for (const [kind, run] of replaced) Object.assign(jobKind(kind), { run, schema: schemas.get(kind) });
  replaced.clear();
});

const add = (kind: 'scrub' | 'tally' | 'collect', key: string = kind): Promise<string> =>
  enqueue(db(), { kind, key, title: kind });
const until = async (true_: () => Promise<boolean>): Promise<void> => {
  for (let i = 0; i < 300; i++) {
    if (await true_()) return;
    await new Promise((done) => setTimeout(done, 100));
  }
  throw new Error('it never came');
};

test('work on the same thing waits once; other work waits beside it', async () => {
  const first = await add('tally');
  expect(await add('tally')).toBe(first);
  expect(await add('tally', 'other')).not.toBe(first);
  expect(await runWaitingJobs()).toBe(2);
  expect((await getJob(reader, first)).state).toBe('done');
});

test('a job is there exactly if the transaction that asked for it landed', async () => {
  const before = await countRows('job');
  await expect(
    transaction(async (client) => {
      await enqueue(client, { kind: 'tally', key: 'lost', title: 'lost' });
      throw new Error('no');
    }),
  ).rejects.toThrow('no');
  expect(await countRows('job')).toBe(before);
  expect(await runWaitingJobs()).toBe(0);
});

test('a check-in asks for a look and for packing, and both are done', async () => {
  const project = await makeProject(lead, 'Jobs');
  const { file } = await makeFile(
    editor,
    project.id,
    null,
    undefined,
    incoming(
      'a.svg',
      '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><rect id="r" width="3" height="3"/></svg>',
    ),
    { note: '' },
  );
  await checkIn(
    editor,
    file.id,
    incoming(
      'a.svg',
      '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><rect id="r" width="4" height="3"/></svg>',
    ),
    { note: '' },
  );
  const waiting = (await listJobs(reader)).jobs.filter((j) => j.state === 'waiting');
  expect(waiting.map((j) => j.title).sort()).toEqual([
    'Looking into a.svg v1',
    'Looking into a.svg v2',
    'Making a.svg v1 smaller',
    'Making a.svg v2 smaller',
  ]);
  await runWaitingJobs();
  expect(await countRows(`content where packed`)).toBe(2);
  const row = await versionRow((await one<{ id: string }>(db(), 'select id from version where number = 2'))!.id);
  expect(row.summary).toBe('Rectangle “r” stretched by (1, 0)');
  expect((await thumbnailSoon(row, 96))?.subarray(1, 4).toString()).toBe('PNG');
});

test('what fails is tried again, then said', async () => {
  let tries = 0;
  instead('scrub', async () => {
    tries++;
    throw new Error('the disk is full');
  });
  const id = await add('scrub');
  await expect(runJob('scrub', id, false)).rejects.toThrow('disk');
  expect(await getJob(reader, id)).toMatchObject({ state: 'running', problem: 'the disk is full', attempts: 1 });
  await expect(runJob('scrub', id, true)).rejects.toThrow('disk');
  expect(await getJob(reader, id)).toMatchObject({ state: 'failed', problem: 'the disk is full', attempts: 2 });
  await runJob('scrub', id, true);
  expect(tries).toBe(2);
});

test('a running job shows its progress and can be cancelled; a waiting one is taken back at once', async () => {
  let steps = 0;
  instead('scrub', async (_, { tell }) => {
    for (;;) {
      await tell('reading', ++steps, 1000);
      await new Promise((done) => setTimeout(done, 50));
    }
  });
  const { id } = await startJob(lead, 'scrub');
  const running = runJob('scrub', id, true);
  await until(async () => (await getJob(reader, id)).done > 3);
  expect(await getJob(reader, id)).toMatchObject({ state: 'running', doing: 'reading', total: 1000, by: 'lead' });
  await expect(startJob(lead, 'scrub')).rejects.toThrow(/running already/);
  await expect(cancelJob(reader, id)).rejects.toThrow(/As a reader you can't start or cancel work on the store/);
  expect(await cancelJob(lead, id)).toMatchObject({ state: 'running', cancelling: true });
  await running;
  expect(await getJob(reader, id)).toMatchObject({ state: 'cancelled' });
  await expect(cancelJob(lead, id)).rejects.toThrow(/ended already: it is cancelled/);
  const waiting = await startJob(lead, 'collect');
  expect((await cancelJob(lead, waiting.id)).state).toBe('cancelled');
  let ran = false;
  instead('collect', async () => {
    ran = true;
  });
  await runWaitingJobs();
  expect(ran).toBe(false);
});

test('two workers share what waits, each job once', async () => {
  const ran: string[] = [];
  instead('tally', async (data) => {
    await new Promise((done) => setTimeout(done, 60));
    ran.push((data as { n?: string }).n ?? '');
  });
  for (let i = 0; i < 12; i++) await enqueue(db(), { kind: 'tally', key: `k${i}`, title: 'k', data: { n: String(i) } });
  const workers = [await startWorker(), await startWorker()];
  await until(async () => ran.length >= 12);
  for (const worker of workers) await worker.stop();
  expect(ran.map(Number).sort((a, b) => a - b)).toEqual([...Array(12).keys()]);
  expect(await countRows('worker')).toBe(0);
});

test('a job whose worker died for good is called failed', async () => {
  const id = await add('scrub', 'dead');
  await db().query(`update job set state = 'running', seen_at = now() - interval '1 hour' where id = $1`, [id]);
  await buryDead();
  expect(await getJob(reader, id)).toMatchObject({
    state: 'failed',
    problem: expect.stringMatching(/worker process/) as string,
  });
});

test('looking at the Storage page has old figures counted again', async () => {
  await db().query('delete from storage_report');
  expect((await getStorage(reader)).report).toBeNull();
  await runWaitingJobs();
  const { report, databaseBytes } = await getStorage(reader);
  expect(report!.total.versions).toBe(2);
  expect(databaseBytes).toBeGreaterThan(1_000_000);
});
