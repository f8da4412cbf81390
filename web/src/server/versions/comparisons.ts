/** Comparisons of versions, for those who may see both. */
import type { PageEntry, PagesSoFar } from '@ovrel/core';
import type { ComparisonResponse, Person } from '../../contract/api.ts';
import { changedPagesOf } from '../facts/changed-pages.ts';
import { comparedContents } from '../facts/comparison.ts';
import { permitVersion } from '../people/access.ts';
import { versionRow, type VersionRow } from './rows.ts';

async function bothRows(by: Person, a: string, b: string): Promise<[VersionRow, VersionRow]> {
  await Promise.all([permitVersion(by, a), permitVersion(by, b)]);
  return Promise.all([versionRow(a), versionRow(b)]);
}

interface Options {
  readonly tolerance?: number | undefined;
  readonly again?: boolean;
}

/** The comparison of two versions with the outlines of what changed. */
export async function compareVersions(
  by: Person,
  a: string,
  b: string,
  { tolerance, again = false }: Options = {},
): Promise<ComparisonResponse> {
  const [rowA, rowB] = await bothRows(by, a, b);
  const { comparison, picture } = await comparedContents({ a: rowA, b: rowB, tolerance }, { again });
  return {
    picture,
    comparison: {
      ...comparison,
      a: { ...comparison.a, name: `v${rowA.number}` },
      b: { ...comparison.b, name: `v${rowB.number}` },
    },
  };
}

/** The differences of two pictures' squares, as the core packs them; undefined where they are no pictures. */
export async function differenceMap(by: Person, a: string, b: string): Promise<Buffer | undefined> {
  const [rowA, rowB] = await bothRows(by, a, b);
  const { map } = await comparedContents({ a: rowA, b: rowB });
  return map === undefined ? undefined : Buffer.from(map, 'base64');
}

/**
 * Which pages of two documents changed, before it is known what changed on them; undefined for anything else.
 * `progress` hears what is known so far.
 */
export async function changedPages(
  by: Person,
  a: string,
  b: string,
  progress?: (soFar: PagesSoFar) => void,
): Promise<PageEntry[] | undefined> {
  const [rowA, rowB] = await bothRows(by, a, b);
  return changedPagesOf(rowA, rowB, progress);
}
