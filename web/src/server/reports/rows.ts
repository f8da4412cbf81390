/** Rows that a report names. */
import { one, type Db } from '../db/pool.ts';

export const fileAndProject = (client: Db, file_id: string): Promise<{ name: string; project: string } | undefined> =>
  one(client, 'select f.name, p.name as project from file f join project p on p.id = f.project_id where f.id = $1', [
    file_id,
  ]);
