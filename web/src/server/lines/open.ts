/** Lines that take new versions. */
import type { Db } from '../db/pool.ts';
import { notFound, Problem } from '../problem.ts';
import { newestOf, type LineRef, type Newest } from '../versions/rows.ts';
import { lineRow } from './rows.ts';

/** The newest version of a line that is there and open. */
export async function newestOfOpen(client: Db, fileId: string, line: LineRef): Promise<Newest> {
  const newest = await newestOf(client, fileId, line);
  if (!newest) throw notFound('line');
  const found = await lineRow(client, newest.line_id);
  if (found?.closed_at)
    throw new Problem(409, 'line-closed', `The line “${found.name}” is closed. Open it again, or start another one.`);
  return newest;
}
