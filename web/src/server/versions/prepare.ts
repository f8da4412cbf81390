/** What versions will soon be asked for: looked into, drawn small and summed up in jobs. */
import { db } from '../db/pool.ts';
import { comparedContents } from '../facts/comparison.ts';
import { lookAt } from '../facts/look.ts';
import { sketchFor } from '../facts/sketch.ts';
import type { Subject } from '../facts/subject.ts';
import { knownThumbnail, mayHaveThumbnail, thumbnailOf, type ThumbnailSide } from '../facts/thumbnail.ts';
import { enqueue } from '../jobs/queue.ts';
import { parentSubject, versionRow, versionsOfFile, type VersionRow } from './rows.ts';

/** All that a new version will be asked for. */
export async function prepareVersion(versionId: string): Promise<void> {
  const row = await versionRow(versionId);
  await lookAt(row);
  await thumbnailOf(row, 96);
  await sketchFor(row);
  if (wantsSummary(row)) await summarise(row);
}

/** Change summaries computed at once when a history is opened; the rest follow as they are looked at. */
const AHEAD = 40;

const wantsSummary = (row: VersionRow): boolean => row.summary === null && row.parent_content_id !== null;

/** Computes missing change summaries against the version before, newest first. */
export async function summariseFile(
  fileId: string,
  tell: (doing: string, done: number, total: number) => Promise<void>,
): Promise<void> {
  const missing = (await versionsOfFile(db(), fileId)).filter(wantsSummary).slice(-AHEAD).reverse();
  for (const [i, row] of missing.entries()) {
    await tell('comparing with the version before', i, missing.length);
    await summarise(row);
  }
}

async function summarise(row: VersionRow): Promise<void> {
  const parent: Subject | undefined = await parentSubject(db(), row.id);
  if (parent) await comparedContents({ a: parent, b: row });
}

/** Has missing summaries of a history computed in the background. */
export async function summariseLater(fileId: string, rows: readonly VersionRow[]): Promise<void> {
  if (rows.some(wantsSummary))
    await enqueue(db(), { kind: 'summary', key: fileId, title: 'Summing up what changed', data: { fileId } });
}

/**
 * How long a page waits for a worker to draw a thumbnail before this process draws it, and how often it looks, in
 * milliseconds.
 */
const PATIENCE = 4000;
const LOOK_EVERY = 200;

const pause = (milliseconds: number): Promise<void> => new Promise((done) => setTimeout(done, milliseconds));

/** A thumbnail, drawn by a worker if there is none yet; by this process where no worker comes. */
export async function thumbnailSoon(row: VersionRow, side: ThumbnailSide): Promise<Buffer | undefined> {
  const found = await knownThumbnail(row, side);
  if (found ?? !mayHaveThumbnail(row)) return found?.value;
  const title = `Looking into ${row.upload_name} v${row.number}`;
  await enqueue(db(), { kind: 'look', key: row.id, title, data: { versionId: row.id } });
  for (const start = Date.now(); Date.now() - start < PATIENCE;) {
    const drawn = await knownThumbnail(row, side);
    if (drawn) return drawn.value;
    await pause(LOOK_EVERY);
  }
  return thumbnailOf(row, side);
}
