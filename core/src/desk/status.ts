/** Where a file on somebody's own computer stands against the newest version. Pure: only hashes are compared. */
export const deskStatuses = [
  'same as newest',
  'changed here',
  'newer on the server',
  'changed on both',
  'not on this desk',
  'not in Ovrel',
] as const;
export type DeskStatus = (typeof deskStatuses)[number];

/**
 * Hashes (SHA-256) of the content here, of the version that it was taken from, and of the newest version; undefined
 * where there is none.
 */
export interface Stand {
  readonly here: string | undefined;
  readonly base: string | undefined;
  readonly newest: string | undefined;
}

export function deskStatus({ here, base, newest }: Stand): DeskStatus {
  if (newest === undefined) return 'not in Ovrel';
  if (here === undefined) return 'not on this desk';
  if (here === newest) return 'same as newest';
  if (here === base) return 'newer on the server';
  // Without knowing what it was taken from, nothing may be overwritten unasked.
  return base === newest ? 'changed here' : 'changed on both';
}

export interface Local {
  /** Below the desk's folder, with slashes. */
  readonly path: string;
  readonly hash: string;
}

export interface Kept {
  readonly fileId: string;
  readonly path: string;
  readonly hash: string;
}

export interface Guess {
  readonly path: string;
  /** The file that an unknown one is taken for, and why. */
  readonly fileId: string;
  readonly because: 'content' | 'name';
}

/**
 * For files here that Ovrel does not know by their path: which missing file each may be, moved or renamed. Content
 * says more than a name.
 */
export function guesses(unknown: readonly Local[], missing: readonly Kept[]): Guess[] {
  const out: Guess[] = [];
  const free = new Map(missing.map((k) => [k.fileId, k]));
  const take = (local: Local, because: Guess['because'], fits: (kept: Kept) => boolean): boolean => {
    const found = [...free.values()].filter(fits);
    const [only] = found;
    if (found.length !== 1 || !only) return false;
    free.delete(only.fileId);
    out.push({ path: local.path, fileId: only.fileId, because });
    return true;
  };
  const name = (path: string): string => path.slice(path.lastIndexOf('/') + 1).toLowerCase();
  const left = unknown.filter((local) => !take(local, 'content', (kept) => kept.hash === local.hash));
  for (const local of left) take(local, 'name', (kept) => name(kept.path) === name(local.path));
  return out;
}
