/** Paths of a desk, with `/` between folders. */
import type { Folder } from '../../contract/api.ts';

export const baseName = (path: string): string => path.slice(path.lastIndexOf('/') + 1);

/** The project's folder that a path on the desk lies in, `null` for none; throws a sentence where the project has no such folder. */
export function folderIdOf(folders: readonly Folder[], path: string): string | null {
  let parent: string | null = null;
  for (const name of path.split('/').slice(0, -1)) {
    const found: Folder | undefined = folders.find(
      (f) => f.parentId === parent && f.name.toLowerCase() === name.toLowerCase(),
    );
    if (!found) throw new Error(`The project has no folder for “${path}”. Make the folder “${name}” there first.`);
    parent = found.id;
  }
  return parent;
}
