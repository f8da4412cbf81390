/** Keeping rules: said, and what goes by them. */
import { KEEP_ALL, sayRule, saySteps, type KindId } from '@ovrel/core';
import type { z } from 'zod';
import type { Person } from '../../contract/api.ts';
import {
  sweepReportSchema,
  type fateSchema,
  type Going,
  type GoingList,
  type goingOfFileSchema,
  type Keeping,
  type keepingPlaceSchema,
  type setKeepingSchema,
  type sweepSchema,
} from '../../contract/keeping.ts';
import { db, transaction } from '../db/pool.ts';
import { enqueue } from '../jobs/queue.ts';
import { record } from '../ledger/ledger.ts';
import { permit, permitFile, permitVersion, placeOfFile, rightsAt, scopeIn, scopeOf } from '../people/access.ts';
import { Problem } from '../problem.ts';
import { folderIn, getProject } from '../projects/service.ts';
import { versionRow } from '../versions/rows.ts';
import { cancelRow } from '../storage/rows.ts';
import { lastSweep, openSweep } from './job-rows.ts';
import { bytesOnlyOf, fatesOf, loadKept, loadWithOthers, namedBy, type LoadedFile } from './kept.ts';
import { dropRule, putRule, ruledFilesOf, type KeptRow } from './rows.ts';
import { rulesIn } from './rules.ts';

const DAY = 86_400_000;
const MOST_GOING = 500;
const SAYING = 'say what is kept how long';
const SWEEPING = 'sweep';

type Where = z.output<typeof keepingPlaceSchema>;

const iso = (at: number): string => new Date(at).toISOString();

export async function getKeeping(by: Person, projectId: string, { folder, content }: Where): Promise<Keeping> {
  const place = { projectId, folderId: folder ?? null };
  await permit(by, 'see', place);
  if (folder !== undefined) await folderIn(db(), folder, projectId);
  const kind: KindId | null = content ?? null;
  const found = (await rulesIn(db(), projectId)).at(place.folderId, kind);
  return {
    rule: found?.rule ?? KEEP_ALL,
    said: found !== undefined && found.folder_id === place.folderId && found.content === kind,
    from: found
      ? {
          folder: found.folder_id,
          content: found.content,
          by: found.changed_by ?? '',
          at: found.changed_at?.toISOString() ?? '',
        }
      : null,
    mayChange: (await rightsAt(by, place)).has('manage'),
  };
}

/** Null: as above. Nothing goes before the next sweep. */
export async function setKeeping(
  by: Person,
  projectId: string,
  { folder, content, rule }: z.output<typeof setKeepingSchema>,
): Promise<Keeping> {
  const place = { projectId, folderId: folder ?? null };
  await permit(by, 'manage', place, SAYING);
  const { name } = folder === undefined ? await getProject(by, projectId) : await folderIn(db(), folder, projectId);
  await transaction(async (client) => {
    await permit(by, 'manage', place, SAYING, client);
    const where = { ...place, content: content ?? null };
    await dropRule(client, where);
    if (rule) await putRule(client, where, rule, by.id);
    const what = content === undefined ? '' : `, content of the kind “${content}”`;
    const subject = `${name}${what}: ${rule ? sayRule(rule) : 'kept as above'}`;
    await record(client, [{ act: 'changed rules', by, subject, projectId }]);
  });
  return getKeeping(by, projectId, { folder, content });
}

/** Versions that go until a moment, of those that `wanted` takes. */
function listGoing(files: readonly LoadedFile[], until: number, wanted: (row: KeptRow) => boolean): GoingList {
  const fate = fatesOf(files);
  const found = files
    .flatMap(({ rows }) => rows)
    .filter(wanted)
    .flatMap((row) => {
      const goes = fate.get(row.id)?.goes ?? null;
      return goes !== null && goes <= until ? [{ row, goes }] : [];
    })
    .sort((a, b) => a.goes - b.goes);
  return {
    versions: found.slice(0, MOST_GOING).map(({ row, goes }) => goingOf(row, goes)),
    total: found.length,
    bytes: bytesOnlyOf(files, new Set(found.map(({ row }) => row.id))),
  };
}

const goingOf = (row: KeptRow, goes: number): Going => ({
  ...namedBy(row),
  line: row.line,
  projectId: row.project_id,
  kind: row.kind,
  by: { id: row.by_id, name: row.by_name },
  at: row.made_at.toISOString(),
  goes: iso(goes),
  format: row.format,
});

const until = (days: number): number => Date.now() + days * DAY;

/** What goes in a project within some days, as far as the person may see the past. */
export async function goingIn(by: Person, projectId: string, days: number): Promise<GoingList> {
  const scope = await scopeIn(by, 'see old versions', projectId);
  const files = await loadKept(db(), { project: projectId });
  return listGoing(files, until(days), (row) => scope.has(row.project_id, row.folder_id));
}

/** What goes of what the person made, in all projects. */
export async function goingOfMine(by: Person, days: number): Promise<GoingList> {
  const [scope, own] = [await scopeOf(by, 'see old versions'), await ruledFilesOf(db(), by.id)];
  const files = await loadWithOthers(db(), own);
  return listGoing(files, until(days), (row) => row.by_id === by.id && scope.has(row.project_id, row.folder_id));
}

export async function goingOfFile(by: Person, fileId: string): Promise<z.infer<typeof goingOfFileSchema>> {
  await permitFile(by, 'see old versions', fileId);
  const { projectId } = await placeOfFile(fileId);
  if ((await rulesIn(db(), projectId)).isEmpty) return { going: [] };
  const files = await loadWithOthers(db(), [fileId]);
  const fate = fatesOf(files);
  const own = files.find((file) => file.id === fileId)?.rows ?? [];
  return {
    going: own.flatMap(({ id }) => {
      const goes = fate.get(id)?.goes ?? null;
      return goes === null ? [] : [{ versionId: id, goes: iso(goes) }];
    }),
  };
}

export async function fateOf(by: Person, versionId: string): Promise<z.infer<typeof fateSchema>> {
  const place = await permitVersion(by, versionId);
  await permit(by, 'see old versions', place);
  const { file_id: fileId, kind } = await versionRow(versionId);
  const files = await loadWithOthers(db(), [fileId]);
  const fate = fatesOf(files).get(versionId);
  const rule = files.find((file) => file.id === fileId)?.rule ?? KEEP_ALL;
  return {
    goes: typeof fate?.goes === 'number' ? iso(fate.goes) : null,
    holds: [...new Set(fate?.holds ?? [])],
    rule: saySteps(rule[kind]),
    mayKeep: (await rightsAt(by, place)).has('check out'),
  };
}

export async function sweepStands(by: Person, projectId: string): Promise<z.infer<typeof sweepSchema>> {
  const due = await goingIn(by, projectId, 0);
  const [last, open] = await Promise.all([lastSweep(db(), projectId), openSweep(db(), projectId)]);
  const report = sweepReportSchema.safeParse(last?.report);
  return {
    due,
    last: last && report.success ? { at: last.ended_at.toISOString(), report: report.data } : null,
    running: open
      ? {
          jobId: open.id,
          doing: open.doing,
          done: Number(open.done),
          total: open.total === null ? null : Number(open.total),
        }
      : null,
  };
}

export async function startSweep(by: Person, projectId: string): Promise<{ jobId: string }> {
  await permit(by, 'manage', { projectId, folderId: null }, SWEEPING);
  const { name } = await getProject(by, projectId);
  if (await openSweep(db(), projectId))
    throw new Problem(409, 'running', 'A sweep of this project is on its way already.');
  const title = `Sweeping ${name}`;
  return { jobId: await enqueue(db(), { kind: 'sweep', key: projectId, title, data: { projectId }, by: by.id }) };
}

export async function cancelSweep(by: Person, projectId: string): Promise<void> {
  await permit(by, 'manage', { projectId, folderId: null }, SWEEPING);
  const open = await openSweep(db(), projectId);
  if (!open || !(await cancelRow(db(), open.id))) throw new Problem(409, 'ended', 'No sweep of this project runs.');
}
