import { cardOf, extensionOf } from '@ovrel/core';
import type { Person } from '../../contract/api.ts';
import { db } from '../db/pool.ts';
import { noteFetched } from '../keeping/rows.ts';
import { permitVersion } from '../people/access.ts';
import { versionRow } from './rows.ts';
import { nameOfFile } from './rows.ts';

export interface Download {
  readonly contentId: string;
  readonly size: number;
  readonly sha256: string;
  /** The file's name with the version in it: "landing-plan v3.svg". */
  readonly fileName: string;
  readonly mime: string;
}

export async function downloadOf(by: Person, versionId: string): Promise<Download> {
  await permitVersion(by, versionId);
  const row = await versionRow(versionId);
  const file = await nameOfFile(db(), row.file_id);
  const name = file?.name ?? row.upload_name;
  const ending = extensionOf(name) ? `.${name.slice(name.lastIndexOf('.') + 1)}` : '';
  return {
    contentId: row.content_id,
    size: Number(row.size),
    sha256: row.hash.toString('hex'),
    fileName: `${name.slice(0, name.length - ending.length)} v${row.number}${ending}`,
    mime: cardOf(row.format)?.mime ?? 'application/octet-stream',
  };
}

/** Somebody has taken a version away. Old ones are remembered: keeping rules are tried on them. */
export const fetched = (by: Person, versionId: string): Promise<void> => noteFetched(db(), versionId, by.id);
