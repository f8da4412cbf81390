/** Sittings: what one person saves without a long pause is shown, stepped through and left as one. */

export interface SavedVersion {
  readonly kind: 'check-in' | 'autosave' | 'backup';
  /** Milliseconds since 1970. */
  readonly at: number;
  /** Who saved it, by id: two people may have one name. */
  readonly person: string;
  /** A version with a title stands by itself. */
  readonly title: string | null;
}

/** A pause longer than this ends a sitting, in milliseconds. */
export const PAUSE = 30 * 60_000;

/** Whether a save belongs to the sitting of the one before it. */
export const goesOn = (before: SavedVersion, next: SavedVersion, pause = PAUSE): boolean =>
  before.kind === 'autosave' &&
  next.kind === 'autosave' &&
  before.title === null &&
  before.person === next.person &&
  next.at - before.at <= pause;

/** Versions of a line, oldest first, in groups: a sitting is one, and every other version. A title ends its sitting. */
export function inSittings<T extends SavedVersion>(versions: readonly T[], pause = PAUSE): T[][] {
  const groups: T[][] = [];
  for (const version of versions) {
    const group = groups.at(-1);
    const before = group?.at(-1);
    const isTitled = version.title !== null;
    if (group && before && !isTitled && goesOn(before, version, pause)) group.push(version);
    else groups.push([version]);
  }
  return groups;
}
