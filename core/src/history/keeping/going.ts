/**
 * Which versions go by keeping rules, and when. Whatever a rule says, what something stands on stays: that is decided
 * here, once for the sweep, the warning beside a version and the trial on the past.
 */
import { goesOn } from '../sittings.ts';
import type { Grain, KeepingRule, KeepingStep, VersionKind } from './rule.ts';

/** Why a version stays whatever a rule says. */
export const holds = [
  'keeper',
  'newest',
  'commented',
  'branched from',
  'gone on from',
  'referred to',
  'at work',
  'together',
] as const;
export type Hold = (typeof holds)[number];

export interface HeldSince {
  readonly hold: Exclude<Hold, 'newest' | 'together'>;
  /** Milliseconds since 1970. */
  readonly since: number;
}

export interface KeptVersion {
  readonly id: string;
  readonly line: string;
  readonly number: number;
  readonly kind: VersionKind;
  /** Milliseconds since 1970. */
  readonly at: number;
  readonly person: string;
  /** What it was checked in or saved with. A sitting is a set, too. */
  readonly set: string;
  /** Versions in that set, also of files that are not looked at. */
  readonly together: number;
  readonly title: string | null;
  readonly holds: readonly HeldSince[];
}

/** Versions of one file, in any order, and what holds for them. */
export interface KeptFile {
  readonly rule: KeepingRule;
  /** Milliseconds without a save that end a sitting; as the core has it where it is not said. */
  readonly pause?: number;
  readonly versions: readonly KeptVersion[];
}

export interface Fate {
  /** When it goes, in milliseconds since 1970; null: it stays. May be in the past: it goes with the next sweep. */
  readonly goes: number | null;
  /** Why it stays although its rule would let it go. */
  readonly holds: readonly Hold[];
}

export interface Asked {
  /** What holds now counts always; looked at from later on, a hold counts from when it began. */
  readonly inThePast?: boolean;
}

const HOUR = 3_600_000;
const DAY = 24 * HOUR;
/** 1 January 1970 was a Thursday; weeks begin on Monday. */
const FIRST_MONDAY = 4 * DAY;

/** What becomes of every version of these files. Sets that reach over several of them stay or go as a whole. */
export function fates(files: readonly KeptFile[], asked: Asked = {}): Map<string, Fate> {
  const found = new Map<string, Fate>();
  for (const file of files)
    for (const line of Map.groupBy(file.versions, (version) => version.line).values()) {
      const inOrder = line.toSorted((a, b) => a.number - b.number);
      addLine(found, inOrder, file, asked);
    }
  holdTogether(found, files);
  return found;
}

function addLine(
  found: Map<string, Fate>,
  line: readonly KeptVersion[],
  { rule, pause }: Omit<KeptFile, 'versions'>,
  { inThePast = false }: Asked,
): void {
  const byRule = new Map<string, number>();
  for (const [kind, versions] of Map.groupBy(line, (version) => version.kind))
    for (const [id, at] of goingByRule(versions, rule[kind], pause)) byRule.set(id, at);
  for (const [place, version] of line.entries()) {
    const due = byRule.get(version.id);
    if (due === undefined) {
      found.set(version.id, { goes: null, holds: [] });
      continue;
    }
    // The newest of a line stays until there is a newer one.
    const next = line[place + 1];
    const goes = next && Math.max(due, next.at);
    const held: Hold[] = version.holds
      .filter(({ since }) => !inThePast || goes === undefined || since <= goes)
      .map(({ hold }) => hold);
    if (goes === undefined) found.set(version.id, { goes: null, holds: ['newest', ...held] });
    else found.set(version.id, { goes: held.length > 0 ? null : goes, holds: held });
  }
}

/** When versions of one kind on one line go by their rule alone, by id; those that stay are left out. */
function goingByRule(
  versions: readonly KeptVersion[],
  steps: readonly KeepingStep[],
  pause: number | undefined,
): Map<string, number> {
  const going = new Map<string, number>();
  let staying = versions;
  let from = 0;
  for (const { one, days } of steps) {
    const buckets = inBuckets(staying, one, pause);
    for (const bucket of buckets)
      for (const [place, version] of bucket.entries()) {
        const next = bucket[place + 1];
        if (next) going.set(version.id, Math.max(version.at + from, next.at));
      }
    staying = buckets.flatMap((bucket) => bucket.slice(-1));
    if (days === null) return going;
    from = days * DAY;
  }
  for (const version of staying) going.set(version.id, version.at + from);
  return going;
}

/** Versions in order, those together of which one stays. */
function inBuckets(versions: readonly KeptVersion[], grain: Grain, pause: number | undefined): KeptVersion[][] {
  if (grain === 'version') return versions.map((version) => [version]);
  if (grain === 'sitting') return bySitting(versions, pause);
  return [...Map.groupBy(versions, ({ at }) => periodOf(grain, at)).values()];
}

/** A sitting is one set; of versions that stand side by side their times tell as well. */
function bySitting(versions: readonly KeptVersion[], pause: number | undefined): KeptVersion[][] {
  const groups: KeptVersion[][] = [];
  for (const version of versions) {
    const group = groups.at(-1);
    const before = group?.at(-1);
    if (group && before && isOfSitting(before, version, pause)) group.push(version);
    else groups.push([version]);
  }
  return groups;
}

const isOfSitting = (before: KeptVersion, version: KeptVersion, pause: number | undefined): boolean =>
  before.set === version.set || (version.number === before.number + 1 && goesOn(before, version, pause));

function periodOf(grain: Exclude<Grain, 'version' | 'sitting'>, at: number): number {
  if (grain === 'hour') return Math.floor(at / HOUR);
  if (grain === 'day') return Math.floor(at / DAY);
  if (grain === 'week') return Math.floor((at - FIRST_MONDAY) / (7 * DAY));
  const date = new Date(at);
  return date.getUTCFullYear() * 12 + date.getUTCMonth();
}

/**
 * What was checked in together with versions of other files goes when all of it may go, and not before; where not all of
 * it is known here, it stays.
 */
function holdTogether(found: Map<string, Fate>, files: readonly KeptFile[]): void {
  const placed = files.flatMap(({ versions }, file) =>
    versions.map(({ id, set, together }) => ({ id, set, together, file })),
  );
  for (const members of Map.groupBy(placed, ({ set }) => set).values()) {
    const isComplete = members.length === members[0]?.together;
    const isOfOneFile = isComplete && members.every(({ file }) => file === members[0]?.file);
    if (isOfOneFile) continue;
    const times = members.map(({ id }) => found.get(id)?.goes ?? null);
    const mayGo = isComplete && !times.includes(null);
    const all = mayGo ? Math.max(...times.map(Number)) : null;
    for (const { id } of members) {
      const fate = found.get(id);
      if (!fate || fate.goes === null) continue;
      found.set(id, all === null ? { goes: null, holds: [...fate.holds, 'together'] } : { ...fate, goes: all });
    }
  }
}
