/**
 * The history that a person makes of a plan before it is taken in: copies on lines, moved, taken out, put on lines of
 * their own. What hangs on a copy that moves stays where that copy was.
 */
import type { PlannedMember } from './plan.ts';

export interface ArrangedLine {
  /** Path of the copy that its first came from; null on the main line. */
  readonly from: string | null;
  /** At least one. */
  readonly paths: readonly string[];
}

/** The main line first; each line behind the one that it leaves. Empty where all is taken out. */
export type Arrangement = readonly ArrangedLine[];

/** A copy as it will stand in the history. */
export interface ArrangedStep {
  readonly path: string;
  /** 0 is the main line. */
  readonly line: number;
  /** From 1 on the main line; on another it goes on from where the line left. */
  readonly version: number;
  readonly parent: string | null;
}

/** As Ovrel proposes it. */
export function arranged(members: readonly PlannedMember[]): Arrangement {
  const lines = [...Map.groupBy(members, ({ line }) => line).entries()].sort(([a], [b]) => a - b);
  return inOrder(
    lines.map(([, of]) => {
      const along = [...of].sort((a, b) => a.version - b.version);
      return { from: along[0]?.parent ?? null, paths: along.map(({ path }) => path) };
    }),
  );
}

/** Without one copy. What came from it came from the one before it. */
export function takenOut(arrangement: Arrangement, path: string): Arrangement {
  const own = arrangement.find(({ paths }) => paths.includes(path));
  if (!own) return arrangement;
  const at = own.paths.indexOf(path);
  const before = own.paths[at - 1] ?? own.from;
  const left = own.paths.filter((one) => one !== path);
  if (before === null && left.length === 0) return withoutMainLine(arrangement, path);
  const heir = before ?? (left[0] as string);
  return inOrder(
    arrangement
      .map((line) => {
        const from = line.from === path ? heir : line.from;
        return { from, paths: line === own ? left : line.paths };
      })
      .filter(({ paths }) => paths.length > 0),
  );
}

/** The only copy of the main line goes: the first line that left from it takes its place. */
function withoutMainLine(arrangement: Arrangement, path: string): Arrangement {
  const [next, ...others] = arrangement.slice(1);
  if (!next) return [];
  const [heir = null] = next.paths;
  return inOrder([
    { from: null, paths: next.paths },
    ...others.map(({ from, paths }) => ({ from: from === path ? heir : from, paths })),
  ]);
}

/** One copy directly before another, on its line. */
export const placedBefore = (arrangement: Arrangement, path: string, other: string): Arrangement =>
  placed(arrangement, path, other, 0);

/** One copy directly after another, on its line. */
export const placedAfter = (arrangement: Arrangement, path: string, other: string): Arrangement =>
  placed(arrangement, path, other, 1);

function placed(arrangement: Arrangement, path: string, other: string, by: 0 | 1): Arrangement {
  if (path === other) return arrangement;
  return takenOut(arrangement, path).map(({ from, paths }) => {
    const at = paths.indexOf(other);
    return at < 0 ? { from, paths } : { from, paths: paths.toSpliced(at + by, 0, path) };
  });
}

/** One copy on a line of its own, which leaves another. */
export function onItsOwn(arrangement: Arrangement, path: string, from: string): Arrangement {
  if (path === from) return arrangement;
  return inOrder([...takenOut(arrangement, path), { from, paths: [path] }]);
}

/** All copies in the order in which they can be made: each behind the one that it came from. */
export function stepsOfArrangement(arrangement: Arrangement): ArrangedStep[] {
  const versionOf = new Map<string, number>();
  return arrangement.flatMap(({ from, paths }, line) =>
    paths.map((path, k): ArrangedStep => {
      const parent = paths[k - 1] ?? from;
      const version = parent === null ? 1 : (versionOf.get(parent) ?? 0) + 1;
      versionOf.set(path, version);
      return { path, line, version, parent };
    }),
  );
}

/** Lines behind those that they leave, else in the order in which they were. */
function inOrder(lines: Arrangement): Arrangement {
  const ordered: ArrangedLine[] = [];
  const known = new Set<string | null>([null]);
  let pending = lines;
  while (pending.length > 0) {
    const ready = pending.filter(({ from }) => known.has(from));
    if (ready.length === 0) throw new Error('lines of an arrangement leave one another in a circle');
    for (const line of ready) for (const path of line.paths) known.add(path);
    ordered.push(...ready);
    pending = pending.filter((line) => !ready.includes(line));
  }
  return ordered;
}
