/**
 * What the browser remembers of a desk: the folder, which versions its files were taken from, and hashes of contents
 * that were looked at.
 */
import { get, set } from 'idb-keyval';

export interface Base {
  readonly fileId: string;
  readonly versionId: string;
  readonly number: number;
  readonly sha256: string;
}

export interface Hashed {
  readonly size: number;
  readonly modified: number;
  readonly sha256: string;
}

export interface Memory {
  readonly bases: Readonly<Record<string, Base>>;
  readonly hashes: Readonly<Record<string, Hashed>>;
}

export type Where = 'folder' | 'practice';

const empty: Memory = { bases: {}, hashes: {} };
const key = (projectId: string, where: Where, what: string): string => `ovrel desk ${projectId} ${where} ${what}`;

export const recall = async (projectId: string, where: Where): Promise<Memory> =>
  (await get<Memory>(key(projectId, where, 'memory'))) ?? empty;
export const remember = (projectId: string, where: Where, memory: Memory): Promise<void> =>
  set(key(projectId, where, 'memory'), memory);
export const recallFolder = (projectId: string): Promise<FileSystemDirectoryHandle | undefined> =>
  get<FileSystemDirectoryHandle>(key(projectId, 'folder', 'handle'));
/** Another folder has another memory. */
export async function rememberFolder(projectId: string, handle: FileSystemDirectoryHandle): Promise<void> {
  const before = await recallFolder(projectId);
  if (before && !(await before.isSameEntry(handle))) await remember(projectId, 'folder', empty);
  await set(key(projectId, 'folder', 'handle'), handle);
}
