/** Rows of figures about the store, and of background work. */
import { many, one, type Db } from '../db/pool.ts';
import type { Scope } from '../people/access.ts';
import { STORE } from '../store/copy.ts';
import { type StorageReport, type Job } from '../../contract/storage.ts';

export const latestReport = (client: Db): Promise<{ at: Date; value: StorageReport } | undefined> =>
  one(client, 'select at, value from storage_report where store_id = $1 order by at desc limit 1', [STORE]);

export const latestScrub = (client: Db): Promise<{ ended_at: Date; report: unknown } | undefined> =>
  one(
    client,
    `select ended_at, report from job where store_id = $1 and kind = 'scrub' and state = 'done' order by ended_at desc limit 1`,
    [STORE],
  );

export const databaseSize = (client: Db): Promise<{ n: string } | undefined> =>
  one(client, 'select pg_database_size(current_database()) as n');

const jobSelect = `
  select j.id, j.kind, j.title, j.state, j.doing, j.done, j.total, j.attempts, j.problem, j.report, j.cancelling, p.name as by, j.created_at, j.started_at, j.ended_at
  from job j left join person p on p.id = j.requested_by`;

export interface JobRow {
  id: string;
  kind: Job['kind'];
  title: string;
  state: Job['state'];
  doing: string;
  done: string;
  total: string | null;
  attempts: number;
  problem: string | null;
  report: unknown;
  cancelling: boolean;
  by: string | null;
  created_at: Date;
  started_at: Date | null;
  ended_at: Date | null;
}

export const openJobs = (client: Db): Promise<JobRow[]> =>
  many<JobRow>(
    client,
    `${jobSelect} where j.store_id = $1 and j.state in ('running', 'waiting') order by j.state, j.created_at limit 30`,
    [STORE],
  );

export const endedJobs = (client: Db): Promise<JobRow[]> =>
  many<JobRow>(
    client,
    `${jobSelect} where j.store_id = $1 and j.state in ('done', 'failed', 'cancelled') and j.created_at > now() - interval '3 days' order by coalesce(j.ended_at, j.created_at) desc limit 6`,
    [STORE],
  );

export const jobCounts = (client: Db): Promise<{ state: Job['state']; n: number }[]> =>
  many(client, `select state, count(*)::int as n from job where store_id = $1 group by state`, [STORE]);

export const workersAlive = (client: Db): Promise<{ n: number } | undefined> =>
  one(client, `select count(*)::int as n from worker where seen_at > now() - interval '1 minute'`);

export const jobRow = (client: Db, id: string): Promise<JobRow | undefined> =>
  one<JobRow>(client, `${jobSelect} where j.store_id = $1 and j.id = $2`, [STORE, id]);

export const runningJob = (client: Db, kind: string): Promise<{ id: string } | undefined> =>
  one(
    client,
    `select id from job where store_id = $1 and kind = $2 and state = 'running' and seen_at > now() - interval '1 minute'`,
    [STORE, kind],
  );

export const cancelRow = (client: Db, id: string): Promise<{ id: string } | undefined> =>
  one(
    client,
    `
    update job set cancelling = true, state = case state when 'waiting' then 'cancelled' else state end, ended_at = case state when 'waiting' then now() else ended_at end
    where store_id = $1 and id = $2 and state in ('waiting', 'running') returning id`,
    [STORE, id],
  );

/** Which of these files a person may see. */
export async function filesSeen(client: Db, ids: readonly string[], scope: Scope): Promise<string[]> {
  const values: unknown[] = [ids];
  const seen = scope.condition('f.project_id', 'f.folder_id', values);
  const rows = await many<{ id: string }>(client, `select f.id from file f where f.id = any($1) and ${seen}`, values);
  return rows.map((r) => r.id);
}
