import { one, type Db } from '../db/pool.ts';
import { STORE } from '../store/copy.ts';

/** Longest title in characters. */
const LONGEST = 300;

interface NewRow {
  readonly kind: string;
  readonly key: string;
  readonly title: string;
  readonly data: Readonly<Record<string, string>>;
  readonly by: string | undefined;
}

/** Undefined where work on the same thing waits already. */
export async function insertJob(client: Db, { kind, key, title, data, by }: NewRow): Promise<string | undefined> {
  const row = await one<{ id: string }>(
    client,
    `insert into job (store_id, kind, key, title, data, requested_by) values ($1, $2, $3, $4, $5, $6)
     on conflict (store_id, kind, key) where state = 'waiting' do nothing returning id`,
    [STORE, kind, key, title.slice(0, LONGEST), JSON.stringify(data), by ?? null],
  );
  return row?.id;
}

/** What the clock starts has no row yet; work of its kind that waits already is taken instead. */
export async function jobOfClock(client: Db, kind: string, title: string): Promise<string | undefined> {
  const row = await one<{ id: string }>(
    client,
    `insert into job (store_id, kind, key, title) values ($1, $2, $2, $3)
     on conflict (store_id, kind, key) where state = 'waiting' do update set title = excluded.title returning id`,
    [STORE, kind, title],
  );
  return row?.id;
}

export async function waitingJob(client: Db, kind: string, key: string): Promise<string | undefined> {
  const row = await one<{ id: string }>(
    client,
    `select id from job where store_id = $1 and kind = $2 and key = $3 order by created_at desc limit 1`,
    [STORE, kind, key],
  );
  return row?.id;
}

export interface StartedJob {
  readonly id: string;
  readonly data: Record<string, string>;
}

/** Undefined where it ended or was cancelled meanwhile. */
export const startJobRow = (client: Db, id: string): Promise<StartedJob | undefined> =>
  one<StartedJob>(
    client,
    `update job set state = 'running', attempts = attempts + 1, started_at = coalesce(started_at, now()),
       seen_at = now(), problem = null
     where id = $1 and state in ('waiting', 'running') returning id, data`,
    [id],
  );

export async function signOfLife(client: Db, id: string): Promise<void> {
  await client.query('update job set seen_at = now() where id = $1', [id]);
}

export async function finishJob(client: Db, id: string, report: unknown): Promise<void> {
  await client.query(
    `update job set state = 'done', ended_at = now(), report = $2, doing = '', done = coalesce(total, done)
     where id = $1`,
    [id, JSON.stringify(report ?? null)],
  );
}

export async function cancelledJob(client: Db, id: string): Promise<void> {
  await client.query(`update job set state = 'cancelled', ended_at = now(), doing = '' where id = $1`, [id]);
}

/** `last`: nobody will try it again. */
export async function failJob(client: Db, id: string, problem: string, last: boolean): Promise<void> {
  await client.query(
    `update job set state = case when $3 then 'failed' else state end,
       ended_at = case when $3 then now() end, problem = $2
     where id = $1`,
    [id, problem, last],
  );
}

/** True where somebody has cancelled it. */
export async function tellProgress(
  client: Db,
  id: string,
  doing: string,
  done: number,
  total: number | null,
): Promise<boolean> {
  const row = await one<{ cancelling: boolean }>(
    client,
    'update job set doing = $2, done = $3, total = $4, seen_at = now() where id = $1 returning cancelling',
    [id, doing, done, total],
  );
  return row?.cancelling ?? false;
}

export async function workerIsThere(client: Db, id: string): Promise<void> {
  await client.query(
    'insert into worker (id, seen_at) values ($1, now()) on conflict (id) do update set seen_at = now()',
    [id],
  );
}

export async function workerIsGone(client: Db, id: string): Promise<void> {
  await client.query('delete from worker where id = $1', [id]);
}

/** Jobs whose worker is gone and that nobody will try again. */
export async function failDeadJobs(client: Db): Promise<void> {
  await client.query(
    `update job set state = 'failed', ended_at = now(), problem = 'The worker process that ran it came to an end.'
     where state = 'running' and seen_at < now() - interval '15 minutes'`,
  );
}

export async function forgetOldJobs(client: Db): Promise<void> {
  await client.query(`delete from job where state in ('done', 'cancelled') and ended_at < now() - interval '3 days'`);
}

export async function forgetDeadWorkers(client: Db): Promise<void> {
  await client.query(`delete from worker where seen_at < now() - interval '5 minutes'`);
}
