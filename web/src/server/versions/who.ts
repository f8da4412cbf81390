/** Who made each difference between two versions: found by following parts through the versions in between. */
import type { Person, Who } from '../../contract/api.ts';
import { db, many } from '../db/pool.ts';
import { permitVersion } from '../people/access.ts';
import { STORE } from '../store/copy.ts';
import { touchedIn } from '../facts/who.ts';
import { versionRow, versionSelect, type VersionRow } from './rows.ts';

/** Versions that are followed through at most: each is read and compared. */
const MOST_VERSIONS = 60;

/** For each change of the comparison of A with B, the versions between them that touched its part. */
export async function whoChanged(by: Person, a: string, b: string, tolerance?: number): Promise<Who> {
  await Promise.all([permitVersion(by, a), permitVersion(by, b)]);
  const [rowA, rowB] = await Promise.all([versionRow(a), versionRow(b)]);
  const nothing = (sentence: string): Who => ({ versions: [], touched: {}, sentence });
  const on = await way(a, b);
  const back = on.length ? [] : await way(b, a);
  const chain = on.length ? on : [...back].reverse();
  if (!chain.length)
    return nothing(
      rowA.file_id === rowB.file_id
        ? 'Neither of these versions came from the other, so Ovrel does not say who made each difference.'
        : 'These are versions of two files, so Ovrel does not say who made each difference.',
    );
  if (chain.length > MOST_VERSIONS)
    return nothing(
      `There are more than ${MOST_VERSIONS - 2} versions in between. Compare versions that are nearer to one another to see who changed what.`,
    );
  // Each step belongs to the later of its two versions, whichever way the comparison looks.
  const makers = on.length ? chain.slice(1) : chain.slice(0, -1);
  const versions = makers.map((v) => ({ number: v.number, by: { id: v.by_id, name: v.by_name } }));
  const touched = await touchedIn({ versions: chain, tolerance });
  return touched
    ? { versions, touched, sentence: null }
    : nothing('These versions are too large to follow their parts from one to the next.');
}

/** The versions from one back to another that it came from, oldest first; empty where it did not. */
async function way(from: string, to: string): Promise<VersionRow[]> {
  const rows = await many<VersionRow & { step: number }>(
    db(),
    `
    with recursive back as (
      select $2::uuid as id, 0 as step
      union all
      select p.parent_id, back.step + 1 from version_parent p join back on p.store_id = $1 and p.version_id = back.id and p.role = 'follows'
      where back.id <> $3 and back.step < $4
    )
    ${versionSelect.replace('select ', 'select back.step, ')} join back on back.id = v.id where v.store_id = $1 order by back.step desc`,
    [STORE, to, from, MOST_VERSIONS],
  );
  // Longer ways come back one version too long, which says so.
  return rows[0]?.id === from || rows.length > MOST_VERSIONS ? rows : [];
}
