/** What a desk asks about contents: which version one is, or which file of the project it is most like. */
import { ALIKE, likeness } from '@ovrel/core';
import type { Person } from '../../contract/api.ts';
import type { Known, Resembling } from '../../contract/desk.ts';
import { db } from '../db/pool.ts';
import { scopeIn } from '../people/access.ts';
import { keptSketches, sketchFor } from '../facts/sketch.ts';
import { newestContents, versionsWithContent } from './rows.ts';

/** Sketches are made soon after a check-in; of those that are not there yet, this many are made at once. */
const MADE_NOW = 40;

export async function resembling(
  by: Person,
  projectId: string,
  unknown: readonly { path: string; sketch: readonly number[] }[],
): Promise<Resembling[]> {
  const scope = await scopeIn(by, 'see', projectId);
  const rows = await newestContents(db(), projectId);
  const asked = unknown.map((u) => ({
    path: u.path,
    sketch: Uint32Array.from(u.sketch),
    best: undefined as { fileId: string; likeness: number } | undefined,
  }));
  const open = rows.filter((row) => scope.has(projectId, row.folder_id));
  const kept = new Map(await keptSketches(open.map((row) => row.content_id)));
  const unsketched = open.filter((row) => !kept.has(row.content_id)).slice(0, MADE_NOW);
  for (const row of unsketched) kept.set(row.content_id, await sketchFor(row));
  for (const row of open) {
    const sketch = kept.get(row.content_id);
    for (const one of sketch ? asked : []) {
      const alike = likeness(one.sketch, sketch as Uint32Array);
      if (alike >= ALIKE && alike > (one.best?.likeness ?? 0)) one.best = { fileId: row.id, likeness: alike };
    }
  }
  return asked.flatMap(({ path, best }) => (best ? [{ path, ...best }] : []));
}

/** The latest version of the main line with such a content, for each; contents that are none are left out. */
export async function knownVersions(
  by: Person,
  projectId: string,
  asked: readonly { fileId: string; sha256: string }[],
): Promise<Known[]> {
  const scope = await scopeIn(by, 'see old versions', projectId);
  const rows = await versionsWithContent(db(), projectId, asked, scope);
  return rows.map((r) => ({ fileId: r.file_id, versionId: r.id, number: r.number, sha256: r.sha256 }));
}
