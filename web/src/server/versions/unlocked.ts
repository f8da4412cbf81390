/**
 * Documents that are locked with a password, opened for one answer. Neither the password nor what it opened is kept.
 */
import { zstdDecompressSync } from 'node:zlib';
import type { z } from 'zod';
import type { ComparisonResponse, Person, unlockComparisonSchema } from '../../contract/api.ts';
import type { Look } from '../../contract/look.ts';
import { runTask, TooHeavy } from '../compute/pool.ts';
import type { KeptComparison } from '../compute/tasks/compare.ts';
import type { Source, ToLoad } from '../compute/task.ts';
import { permitVersion } from '../people/access.ts';
import { countedForDocuments, countWrong, refusePaused } from '../people/attempts.ts';
import { Problem } from '../problem.ts';
import { PAGE_SIDE } from '../facts/drawn.ts';
import { lookAt } from '../facts/look.ts';
import { endingOf, isReadable, sourceOf } from '../facts/subject.ts';
import { versionRow } from './rows.ts';

async function opened(by: Person, versionId: string, password: string | undefined): Promise<Source | ToLoad> {
  await permitVersion(by, versionId);
  const row = await versionRow(versionId);
  if (!isReadable(row)) throw new Problem(415, 'too-large', 'The document is too large to be looked into.');
  const source = sourceOf(row);
  if (password === undefined) return source;
  if (!(await lookAt(row)).locked) throw new Problem(409, 'not-locked', 'This version is not locked with a password.');
  const counted = countedForDocuments(by.id);
  await refusePaused(counted, 'Those were too many wrong passwords.');
  const bytes = await heavy(runTask('unlock', { source, password }));
  if (bytes) return { name: `file.${endingOf(row)}`, bytes };
  await countWrong(counted);
  throw new Problem(
    422,
    'wrong-password',
    'This password does not open the document. Capital and small letters are not the same in it.',
  );
}

const heavy = <T>(work: Promise<T>): Promise<T> =>
  work.catch((error: unknown) => {
    throw error instanceof TooHeavy ? new Problem(415, 'too-heavy', error.message) : error;
  });

export async function unlockedLook(by: Person, versionId: string, password: string): Promise<Look> {
  return heavy(runTask('look', { source: await opened(by, versionId, password) }));
}

/** A page as PNG. */
export async function unlockedPage(by: Person, versionId: string, password: string, page: number): Promise<Response> {
  const png = await heavy(runTask('page', { source: await opened(by, versionId, password), page, side: PAGE_SIDE }));
  if (!png) throw new Problem(415, 'no-picture', `The document has no page ${page + 1} that can be drawn.`);
  return new Response(Uint8Array.from(png), {
    headers: { 'content-type': 'image/png', 'cache-control': 'no-store', 'x-content-type-options': 'nosniff' },
  });
}

export async function unlockedComparison(
  by: Person,
  { a, b, passwordA, passwordB }: z.output<typeof unlockComparisonSchema>,
): Promise<ComparisonResponse> {
  const [sourceA, sourceB] = [await opened(by, a, passwordA), await opened(by, b, passwordB)];
  const { value } = await heavy(runTask('compare', { a: sourceA, b: sourceB }, { seconds: 45 }));
  const { comparison, picture } = JSON.parse(zstdDecompressSync(value).toString('utf8')) as KeptComparison;
  return { comparison, picture };
}
