/** Which part of a version is drawn at a point. */
import type { z } from 'zod';
import type { partAnswerSchema, partQuerySchema, Person } from '../../contract/api.ts';
import { runTask } from '../compute/pool.ts';
import { hasReader, isReadable, sourceOf } from '../facts/subject.ts';
import { permitVersion } from '../people/access.ts';
import { versionRow } from './rows.ts';

export async function partAt(
  by: Person,
  versionId: string,
  at: z.output<typeof partQuerySchema>,
): Promise<z.infer<typeof partAnswerSchema>> {
  await permitVersion(by, versionId);
  const row = await versionRow(versionId);
  if (!hasReader(row) || !isReadable(row)) return { part: null };
  const found = await runTask('locate', { source: sourceOf(row), at });
  if (!found) return { part: null };
  const { part: index, page, box, about } = found;
  return { part: { index, page, ...about, box: box ? [...box] : null } };
}
