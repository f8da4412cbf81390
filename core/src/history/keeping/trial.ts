/**
 * Keeping rules tried on the past: what would have gone when, what it would have saved, and above all to how many of
 * the versions that somebody went back to one could still have gone.
 */
import { fates, type KeptFile, type KeptVersion } from './going.ts';
import { KEEP_ALL, type KeepingRule, type KeepingStep } from './rule.ts';

export interface PastVersion extends KeptVersion {
  readonly content: string;
  /** What its content takes in the store, in bytes. */
  readonly bytes: number;
}

export interface PastFile extends KeptFile {
  readonly versions: readonly PastVersion[];
}

/** Somebody brought a version forward, branched it off, carried from it, or downloaded it when it was an old one. */
export interface WentBack {
  readonly version: string;
  /** Milliseconds since 1970. */
  readonly at: number;
}

export interface Missed<W extends WentBack> {
  readonly back: W;
  /** When the version would have gone. */
  readonly gone: number;
}

export interface TrialDay {
  /** Milliseconds since 1970, the end of the day. */
  readonly at: number;
  /** Bytes of contents that were kept at that moment, and those that would have been. */
  readonly without: number;
  readonly withRule: number;
}

export interface Trial<W extends WentBack> {
  readonly versions: number;
  /** How many of them would have gone until now, and when each, by id. */
  readonly gone: ReadonlyMap<string, number>;
  readonly wentBack: number;
  readonly missed: readonly Missed<W>[];
  readonly days: readonly TrialDay[];
}

const DAY = 86_400_000;
/** Points of the curve at most; longer pasts are told in steps of several days. */
const MOST_DAYS = 120;

/**
 * As if the rules of these files had held from the first version on. Of `others` nothing is told, but what was checked
 * in together with versions of them goes only with these. Times in milliseconds since 1970.
 */
export function tryOnPast<W extends WentBack>(
  files: readonly PastFile[],
  back: readonly W[],
  now: number,
  others: readonly PastFile[] = [],
): Trial<W> {
  const fate = fates([...files, ...others], { inThePast: true });
  const told = new Set(files.flatMap((file) => file.versions.map(({ id }) => id)));
  const gone = new Map<string, number>();
  for (const [id, { goes }] of fate) if (told.has(id) && goes !== null && goes <= now) gone.set(id, goes);
  const missed = back.flatMap((one) => {
    const at = gone.get(one.version);
    return at !== undefined && at < one.at ? [{ back: one, gone: at }] : [];
  });
  const versions = files.flatMap((file) => file.versions);
  return { versions: versions.length, gone, wentBack: back.length, missed, days: curve(versions, gone, now) };
}

interface Stretch {
  readonly bytes: number;
  readonly from: number;
  readonly until: number;
  readonly untilWithRule: number;
}

/** A content is there as long as one version has it. */
function stretches(versions: readonly PastVersion[], gone: ReadonlyMap<string, number>): Stretch[] {
  return [...Map.groupBy(versions, ({ content }) => content).values()].map((of) => ({
    bytes: Math.max(...of.map(({ bytes }) => bytes)),
    from: Math.min(...of.map(({ at }) => at)),
    until: Infinity,
    untilWithRule: Math.max(...of.map(({ id }) => gone.get(id) ?? Infinity)),
  }));
}

function curve(versions: readonly PastVersion[], gone: ReadonlyMap<string, number>, now: number): TrialDay[] {
  if (versions.length === 0) return [];
  const contents = stretches(versions, gone);
  const first = Math.min(...contents.map(({ from }) => from));
  const step = Math.max(DAY, Math.ceil((now - first) / MOST_DAYS / DAY) * DAY);
  const days: TrialDay[] = [];
  for (let at = now; ; at -= step) {
    const there = contents.filter(({ from }) => from <= at);
    days.push({
      at,
      without: bytesOf(there),
      withRule: bytesOf(there.filter(({ untilWithRule }) => untilWithRule > at)),
    });
    if (at < first) return days.reverse();
  }
}

const bytesOf = (contents: readonly Stretch[]): number => contents.reduce((sum, { bytes }) => sum + bytes, 0);

const all = (days: number): KeepingStep => ({ one: 'version', days });
const one = (grain: KeepingStep['one'], days: number | null): KeepingStep => ({ one: grain, days });

/** From the one that keeps least to the one that keeps most. */
const proposals: Readonly<Record<'autosave' | 'backup', readonly (readonly KeepingStep[])[]>> = {
  autosave: [
    [all(1), one('sitting', 7)],
    [all(1), one('sitting', 30)],
    [all(7), one('sitting', 90)],
    [all(7), one('sitting', 90), one('day', 365)],
    [all(30), one('sitting', null)],
    [all(90), one('sitting', null)],
  ],
  backup: [
    [one('hour', 1), one('day', 7)],
    [one('hour', 2), one('day', 30)],
    [one('hour', 2), one('day', 30), one('week', 365)],
    [one('hour', 7), one('day', 90), one('week', null)],
    [all(7), one('hour', 30), one('day', null)],
    [all(90), one('day', null)],
  ],
};

/**
 * The rule that keeps least among those that would have missed none of what somebody went back to. Check-ins are kept
 * for ever: somebody has said why they were made.
 */
export function proposeRule(
  files: readonly PastFile[],
  back: readonly WentBack[],
  now: number,
  others: readonly PastFile[] = [],
): KeepingRule {
  let proposed = KEEP_ALL;
  for (const kind of ['autosave', 'backup'] as const)
    for (const steps of proposals[kind]) {
      const tried: KeepingRule = { ...proposed, [kind]: steps };
      const withIt = files.map((file) => ({ ...file, rule: tried }));
      const missesNone = tryOnPast(withIt, back, now, others).missed.length === 0;
      if (missesNone) {
        proposed = tried;
        break;
      }
    }
  return proposed;
}
