/** Versions of a file, of all its lines, and the acts of the ledger that made none, the latest first. */
import type { Person } from '../../contract/api.ts';
import type { LedgerEntry } from '../../contract/desk.ts';
import type { FileHistory } from '../../contract/history.ts';
import { db, many } from '../db/pool.ts';
import { permitFile } from '../people/access.ts';
import { STORE } from '../store/copy.ts';
import { versionOf, versionSelect, type VersionRow } from '../versions/rows.ts';
import type { Act } from './ledger.ts';

const PAGE = 100;
/** Their versions tell of them. */
const makingVersions: readonly Act[] = ['checked in', 'brought forward', 'branched off'];

export async function fileHistory(by: Person, fileId: string, before?: string): Promise<FileHistory> {
  await permitFile(by, 'see old versions', fileId, 'see the history');
  const [versions, acts] = await Promise.all([
    many<VersionRow>(
      db(),
      `${versionSelect} where v.store_id = $1 and v.file_id = $2 and ($3::timestamptz is null or v.made_at < $3) order by v.made_at desc, v.number desc limit ${PAGE + 1}`,
      [STORE, fileId, before ?? null],
    ),
    many<{ entry: string }>(
      db(),
      `
      select entry from ledger where store_id = $1 and file_id = $2 and act <> all($4) and ($3::timestamptz is null or at < $3) order by at desc, seq desc limit ${PAGE + 1}`,
      [STORE, fileId, before ?? null, makingVersions],
    ),
  ]);
  const steps: FileHistory['steps'] = [
    ...versions.map((row) => ({ at: row.made_at.toISOString(), version: versionOf(row), entry: null })),
    ...acts.map((row) => {
      const { from: _, ...entry } = JSON.parse(row.entry) as Omit<LedgerEntry, 'hash'>;
      return { at: entry.at, version: null, entry };
    }),
  ].sort((a, b) => b.at.localeCompare(a.at));
  return { steps: steps.slice(0, PAGE), more: steps.length > PAGE };
}
