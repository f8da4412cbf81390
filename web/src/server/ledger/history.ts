/** Versions of a file, of all its lines, and the acts of the ledger that made none, the latest first. */
import type { Person } from '../../contract/api.ts';
import type { LedgerEntry } from '../../contract/desk.ts';
import type { z } from 'zod';
import type { FileHistory, historyQuerySchema } from '../../contract/history.ts';
import type { VersionFilter } from '../../contract/version-filter.ts';
import { db } from '../db/pool.ts';
import { permitFile } from '../people/access.ts';
import { versionOf } from '../versions/rows.ts';
import type { Act } from './ledger.ts';
import { countFilteredOut, versionsBefore, versionsThrough, actsBefore, PAGE } from './rows.ts';

/** Their versions tell of them. */
const makingVersions: readonly Act[] = [
  'checked in',
  'saved',
  'took in',
  'left without keeping',
  'brought forward',
  'branched off',
  'took back',
  'carried over',
  'joined',
  'set aside',
  'sealed',
];

export async function fileHistory(
  by: Person,
  fileId: string,
  { before, ...filter }: z.output<typeof historyQuerySchema> = {},
): Promise<FileHistory> {
  await permitFile(by, 'see old versions', fileId, 'see the history');
  // What was done without a version has neither kind nor note.
  const withActs = filter.kinds === undefined && !filter.words;
  const [versions, acts, filteredOut] = await Promise.all([
    versionsBefore(db(), fileId, before, filter),
    withActs ? actsBefore(db(), fileId, before, makingVersions, filter) : [],
    countFilteredOut(db(), fileId, filter),
  ]);
  const steps: FileHistory['steps'] = [
    ...versions.map((row) => ({ at: row.made_at.toISOString(), version: versionOf(row), entry: null })),
    ...acts.map((row) => {
      const { from: _, ...entry } = JSON.parse(row.entry) as Omit<LedgerEntry, 'hash'>;
      return { at: entry.at, version: null, entry };
    }),
  ].sort((a, b) => b.at.localeCompare(a.at));
  return { steps: steps.slice(0, PAGE), more: steps.length > PAGE, filteredOut };
}

/** Versions of a file that a filter lets through, as ids. */
export async function matchingVersions(
  by: Person,
  fileId: string,
  filter: VersionFilter,
): Promise<{ versions: string[] }> {
  await permitFile(by, 'see old versions', fileId, 'see the history');
  return { versions: await versionsThrough(db(), fileId, filter) };
}
