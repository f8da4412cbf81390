/**
 * Sweeps: what the rules let go is removed. Looked at once more under the lock of its files, in one transaction for
 * files that belong together; so a sweep that is killed has removed what it has removed, and nothing by halves.
 */
import { plural, saySteps, sayVersionKind, versionKinds, type Fate } from '@ovrel/core';
import type { SweepReport } from '../../contract/keeping.ts';
import { db, transaction, type Client } from '../db/pool.ts';
import type { Tell } from '../jobs/job.ts';
import { record, type NewEntry } from '../ledger/ledger.ts';
import { tell as tellLive } from '../live/live.ts';
import { bytesOnlyOf, fatesOf, loadKept, type LoadedFile } from './kept.ts';
import { deleteSwept, followNearest, keepSwept, lockFiles, projectsWithRules } from './rows.ts';

/** Numbers of versions that an entry of the ledger names. */
const MOST_NUMBERS = 12;

/** Sweeps one project, or all that have rules. */
export async function sweep(projectId: string | undefined, tell: Tell): Promise<SweepReport> {
  const projects = projectId === undefined ? (await projectsWithRules(db())).map(({ id }) => id) : [projectId];
  const total = { files: 0, versions: 0, bytes: 0 };
  for (const [done, id] of projects.entries()) {
    await tell('looking what goes', done, projects.length);
    const groups = belongingTogether(await loadKept(db(), { project: id }));
    for (const [swept, files] of groups.entries()) {
      await tell('removing what the rules let go', swept, groups.length);
      const report = await transaction((client) => sweepFiles(client, files));
      total.files += report.files;
      total.versions += report.versions;
      total.bytes += report.bytes;
    }
  }
  return total;
}

const isDue = (fate: Fate | undefined, now: number): boolean =>
  fate !== undefined && fate.goes !== null && fate.goes <= now;

/** Ids of files of which something goes, those in one group whose versions go together. */
function belongingTogether(files: readonly LoadedFile[]): string[][] {
  const now = Date.now();
  const fate = fatesOf(files);
  const due = files.flatMap((file) =>
    file.versions.filter(({ id }) => isDue(fate.get(id), now)).map(({ set }) => ({ set, file: file.id })),
  );
  const groupOf = new Map<string, Set<string>>();
  for (const members of Map.groupBy(due, ({ set }) => set).values()) {
    const joined = new Set(members.flatMap(({ file }) => [file, ...(groupOf.get(file) ?? [])]));
    for (const file of joined) groupOf.set(file, joined);
  }
  return [...new Set(groupOf.values())].map((group) => [...group]);
}

async function sweepFiles(client: Client, fileIds: readonly string[]): Promise<SweepReport> {
  await lockFiles(client, fileIds);
  const files = await loadKept(client, { files: fileIds });
  const fate = fatesOf(files);
  const now = Date.now();
  const going = new Set(
    files.flatMap(({ versions }) => versions.filter(({ id }) => isDue(fate.get(id), now)).map(({ id }) => id)),
  );
  if (going.size === 0) return { files: 0, versions: 0, bytes: 0 };
  const bytes = bytesOnlyOf(files, going);
  const touched = files.filter((file) => file.rows.some(({ id }) => going.has(id)));
  for (const { id, rows } of touched)
    await tellLive(client, { kind: 'version', file: id, project: rows[0]?.project_id ?? '' });
  const ids = [...going];
  await keepSwept(client, ids);
  // Entered while they are still there, so that the entry holds what they were.
  await record(
    client,
    touched.map((file) => entryFor(file, going)),
  );
  await followNearest(client, ids);
  await deleteSwept(client, ids);
  return { files: touched.length, versions: going.size, bytes };
}

function entryFor({ id, rows, rule }: LoadedFile, going: ReadonlySet<string>): NewEntry {
  const gone = rows.filter((row) => going.has(row.id));
  const named = gone
    .slice(0, MOST_NUMBERS)
    .map((row) => (row.line_position === 0 ? `v${row.number}` : `v${row.number} on “${row.line}”`));
  const more = gone.length > MOST_NUMBERS ? ` and ${gone.length - MOST_NUMBERS} more` : '';
  const kinds = versionKinds.filter((kind) => gone.some((row) => row.kind === kind));
  return {
    act: 'swept',
    by: null,
    subject: `${rows[0]?.file ?? ''}, ${plural(gone.length, 'version')}: ${named.join(', ')}${more}`,
    reason: kinds.map((kind) => `${sayVersionKind(kind)}: ${saySteps(rule[kind])}.`).join(' '),
    projectId: rows[0]?.project_id ?? null,
    fileId: id,
    erased: gone.map((row) => row.id),
  };
}
