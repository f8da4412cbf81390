/** Who drew what: found out version by version in the background, kept with each version. */
import type { DrawnBy } from '@ovrel/core';
import type { Person } from '../../contract/api.ts';
import type { DrawnByAnswer } from '../../contract/drawn.ts';
import { runTask } from '../compute/pool.ts';
import { unpacked } from '../compute/tasks/attribute.ts';
import { db } from '../db/pool.ts';
import { isReadable, looksInto, sourceOf } from '../facts/subject.ts';
import { enqueue } from '../jobs/queue.ts';
import type { Tell } from '../jobs/job.ts';
import { permit, permitVersion } from '../people/access.ts';
import { versionRow } from '../versions/rows.ts';
import { drawnValue, insertDrawn, toldVersions, wayToKnown, type WayRow } from './rows.ts';

/** Base of the time that one version may take, in seconds. */
const SECONDS = 60;
/** Of what is gone, in one answer. */
const MOST_GONE = 200;
/** Joins within joins that are followed. */
const DEPTH = 20;

const nothing: DrawnByAnswer = { ready: true, done: 0, total: 0, sentence: null, versions: [], parts: [], gone: [] };

export async function drawnBy(by: Person, versionId: string, gone?: string): Promise<DrawnByAnswer> {
  await permit(by, 'see old versions', await permitVersion(by, versionId));
  const row = await versionRow(versionId);
  if (!looksInto(row) || !isReadable(row))
    return { ...nothing, sentence: 'Of files of this kind it is not told who drew which part.' };
  const value = await drawnValue(db(), versionId);
  if (value) return told(versionId, unpacked(value), gone);
  const way = await wayToKnown(db(), versionId);
  await enqueue(db(), {
    kind: 'drawn',
    key: versionId,
    by: by.id,
    title: `Finding out who drew what in ${row.upload_name} v${row.number}`,
    data: { versionId },
  });
  return { ...nothing, ready: false, done: way.filter((step) => step.known).length, total: way.length };
}

async function told(versionId: string, drawn: DrawnBy, wanted: string | undefined): Promise<DrawnByAnswer> {
  const row = await versionRow(versionId);
  const [parts, rows] = await Promise.all([
    runTask('outline', { source: sourceOf(row) }),
    toldVersions(db(), drawn.versions),
  ]);
  const known = new Map(rows.map((v) => [v.id, v]));
  // Versions that were erased since are not told of.
  const there = drawn.versions.flatMap((id) => known.get(id) ?? []);
  const placeOf = new Map(there.map((v, k) => [v.id, k]));
  const place = (k: number): number => placeOf.get(drawn.versions[k] ?? '') ?? -1;
  const fits = (text: string): boolean => text.toLowerCase().includes((wanted ?? '').toLowerCase());
  return {
    ready: true,
    done: there.length,
    total: there.length,
    sentence: null,
    versions: there.map((v) => ({
      id: v.id,
      fileId: v.file_id,
      number: v.number,
      by: { id: v.by_id, name: v.by_name },
      at: v.made_at.toISOString(),
      parentId: v.parent_id,
    })),
    parts: parts.map(({ box, ...part }, k) => ({
      ...part,
      box: box ? [...box] : null,
      story: (drawn.parts[k] ?? []).map(place).filter((v) => v >= 0),
    })),
    gone: drawn.gone
      .filter((part) => fits(part.name) || fits(part.category) || fits(part.kind))
      .map(({ box, ...part }) => ({
        ...part,
        box: box ? [...box] : null,
        last: place(part.last),
        out: place(part.out),
      }))
      .filter((part) => part.last >= 0 && part.out >= 0)
      .reverse()
      .slice(0, MOST_GONE),
  };
}

/** Finds out what is not known yet of a version and of those before it. */
export async function findDrawn(versionId: string, tell: Tell, depth = 0): Promise<Buffer | undefined> {
  const way = await wayToKnown(db(), versionId);
  for (const [k, step] of way.entries()) {
    await tell('following parts from version to version', k, way.length);
    if (!step.known) await findOne(step, tell, depth);
  }
  return drawnValue(db(), versionId);
}

async function findOne(
  { id, before_id: beforeId, second_id: secondId }: WayRow,
  tell: Tell,
  depth: number,
): Promise<void> {
  const row = await versionRow(id);
  if (!looksInto(row) || !isReadable(row)) return;
  const before = beforeId === null ? undefined : await knownOf(beforeId);
  if (secondId !== null && depth < DEPTH) await findDrawn(secondId, tell, depth + 1);
  const second = secondId === null ? undefined : await knownOf(secondId);
  const value = await runTask(
    'attribute',
    {
      version: id,
      source: sourceOf(row),
      ...(before ? { before: { ...before, source: await loadedSource(before.version) } } : {}),
      ...(second ? { second: { ...second, source: await loadedSource(second.version) } } : {}),
    },
    { seconds: SECONDS },
  );
  if (value) await insertDrawn(db(), id, value);
}

async function knownOf(version: string): Promise<{ version: string; drawn: Uint8Array } | undefined> {
  const value = await drawnValue(db(), version);
  return value && { version, drawn: Uint8Array.from(value) };
}

const loadedSource = async (version: string): ReturnType<ReturnType<typeof sourceOf>['load']> =>
  sourceOf(await versionRow(version)).load();
