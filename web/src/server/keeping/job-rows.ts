/** Sweeps that somebody asked for, as jobs. */
import { one, type Db } from '../db/pool.ts';
import { STORE } from '../store/copy.ts';

const ofProject = `store_id = $1 and kind = 'sweep' and data->>'projectId' = $2`;

export const lastSweep = (client: Db, projectId: string): Promise<{ ended_at: Date; report: unknown } | undefined> =>
  one(client, `select ended_at, report from job where ${ofProject} and state = 'done' order by ended_at desc limit 1`, [
    STORE,
    projectId,
  ]);

interface OpenSweep {
  readonly id: string;
  readonly doing: string;
  readonly done: string;
  readonly total: string | null;
}

export const openSweep = (client: Db, projectId: string): Promise<OpenSweep | undefined> =>
  one<OpenSweep>(
    client,
    `select id, doing, done, total from job where ${ofProject} and state in ('waiting', 'running')
     order by created_at desc limit 1`,
    [STORE, projectId],
  );
