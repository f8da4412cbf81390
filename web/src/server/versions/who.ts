/** Who made each difference between two versions: found by following parts through the versions in between. */
import type { Person, Who } from '../../contract/api.ts';
import { db } from '../db/pool.ts';
import { permitVersion } from '../people/access.ts';
import { touchedIn } from '../facts/who.ts';
import { versionRow, type VersionRow } from './rows.ts';
import { wayBetween, MOST_VERSIONS } from './rows.ts';

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
  const rows = await wayBetween(db(), to, from);
  // Longer ways come back one version too long, which says so.
  return rows[0]?.id === from || rows.length > MOST_VERSIONS ? rows : [];
}
