/** A project, or a folder of it, as a ZIP that is made while it is sent. */
import { cardOf } from '@ovrel/core';
import { Readable } from 'node:stream';
import { ZipFile } from 'yazl';
import type { Person } from '../../contract/api.ts';
import { db } from '../db/pool.ts';
import { permit, scopeOf } from '../people/access.ts';
import { Problem } from '../problem.ts';
import { readContent } from '../store/reader.ts';
import { folderIn, foldersOf, getProject } from './service.ts';
import { filesAtMoment } from './rows.ts';

export interface ArchiveEntry {
  /** Folders and name, with slashes between. */
  readonly path: string;
  readonly contentId: string;
  readonly size: number;
  readonly format: string | null;
  readonly madeAt: Date;
}

export interface Archive {
  readonly fileName: string;
  readonly entries: readonly ArchiveEntry[];
}

/** What goes in: of each file the version that was newest at the moment; files that did not exist yet are left out. */
export async function archiveOf(
  by: Person,
  projectId: string,
  folderId: string | undefined,
  at: Date | undefined,
): Promise<Archive> {
  const project = await getProject(by, projectId);
  const folder = folderId ? await folderIn(db(), folderId, projectId) : undefined;
  const scope = await scopeOf(by, at ? 'see old versions' : 'see', projectId);
  if (!scope.any(projectId))
    await permit(by, at ? 'see old versions' : 'see', { projectId, folderId: folderId ?? null });
  const folders = new Map((await foldersOf(by, projectId)).map((f) => [f.id, f]));
  /** Path of a folder below where the archive begins, with a slash at its end; undefined outside. */
  const pathOf = (id: string | null): string | undefined => {
    if (id === (folderId ?? null)) return '';
    const found = id === null ? undefined : folders.get(id);
    const above = found && pathOf(found.parentId);
    return found && above !== undefined ? `${above}${found.name}/` : undefined;
  };
  const files = await filesAtMoment(db(), projectId, at);
  const entries = files.flatMap((f): ArchiveEntry[] => {
    const path = pathOf(f.folder_id);
    return path === undefined || !scope.has(projectId, f.folder_id)
      ? []
      : [{ path: path + f.name, contentId: f.content_id, size: Number(f.size), format: f.format, madeAt: f.made_at }];
  });
  if (!entries.length)
    throw new Problem(
      404,
      'nothing',
      at ? 'There was no file here at that moment. Choose a later one.' : 'There is no file here yet.',
    );
  const name = folder ? `${project.name} ${folder.name}` : project.name;
  return {
    fileName: `${name.replace(/[/\\:*?"<>|]/g, '_')}${at ? ` ${at.toISOString().slice(0, 16).replace('T', ' ').replace(':', '')}` : ''}.zip`,
    entries,
  };
}

/**
 * The bytes of the ZIP; sizes over 4 GB and any number of files are told in ZIP64. A content that is damaged breaks
 * the stream off.
 */
export function zipStream(
  entries: readonly ArchiveEntry[],
  read: (contentId: string) => AsyncGenerator<Buffer> = readContent,
): Readable {
  const zip = new ZipFile();
  const out = zip.outputStream as unknown as Readable;
  for (const entry of entries) {
    // Opened when its turn comes, so that one content is read at a time.
    zip.addReadStreamLazy(
      entry.path,
      {
        mtime: entry.madeAt,
        size: entry.size,
        compress: !cardOf(entry.format)?.packed,
        forceZip64Format: entry.size > 0xff00_0000,
      },
      (ready) => {
        const stream = Readable.from(read(entry.contentId), { objectMode: false });
        const stop = (): void => void stream.destroy();
        stream.on('error', (error) => out.destroy(error));
        stream.once('close', () => out.off('close', stop));
        out.once('close', stop);
        ready(null, stream);
      },
    );
  }
  zip.on('error', (error: Error) => out.destroy(error));
  zip.end();
  return out;
}
