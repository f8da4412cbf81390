import type { Folder } from '../../contract/api.ts';

/** Full names of folders ("Drawings › Details"), in order. */
export function folderPaths(folders: readonly Folder[]): { id: string; path: string; trail: string[] }[] {
  const byId = new Map(folders.map((f) => [f.id, f]));
  return folders
    .map((folder) => {
      const names: string[] = [];
      const trail: string[] = [];
      for (
        let at: Folder | undefined = folder;
        at && !trail.includes(at.id);
        at = at.parentId ? byId.get(at.parentId) : undefined
      ) {
        names.unshift(at.name);
        trail.push(at.id);
      }
      return { id: folder.id, path: names.join(' › '), trail };
    })
    .sort((a, b) => a.path.localeCompare(b.path));
}
