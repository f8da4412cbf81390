import type { PageEntry, PagesSoFar } from '@ovrel/core';
import { runTask } from '../compute/pool.ts';
import { unlessTooHeavy } from './fact.ts';
import { hasPages, isReadable, sourceOf, type Subject } from './subject.ts';

/**
 * Which pages of two documents changed, before it is known what changed on them; undefined for anything else.
 * `progress` hears what is known so far.
 */
export async function changedPagesOf(
  a: Subject,
  b: Subject,
  progress?: (soFar: PagesSoFar) => void,
): Promise<PageEntry[] | undefined> {
  if (!hasPages(a) || !hasPages(b) || !isReadable(a, b)) return undefined;
  const work = runTask('pages', { a: sourceOf(a), b: sourceOf(b) }, { progress });
  return (await unlessTooHeavy(work, () => null)) ?? undefined;
}
