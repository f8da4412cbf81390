/** What was made is read again and compared: it must be what was promised, and nothing else. */
import type { Step } from '../kinds/kind.ts';
import { around, partsWithin, within, type Side } from './side.ts';
import type { Act, ThreeWay, Wanted } from './three-way.ts';
import type { SourceEdits } from './edits.ts';

/** Parts of the result that are not as they should be: `unwanted` should be as in ours, `missing` as in theirs. */
export interface Shortfall {
  readonly unwanted: number;
  readonly missing: number;
}

interface Steps {
  readonly fromOurs: Step;
  readonly fromTheirs: Step;
  readonly baseToOurs: Step;
  readonly baseToTheirs: Step;
}

/** `fromOurs` and `fromTheirs`: what leads from either side to the result, by what the two show. */
export function shortfall(
  ours: SourceEdits,
  theirs: SourceEdits,
  { acts, clashes }: ThreeWay,
  steps: Steps,
  wanted: Pick<Wanted, 'isWanted' | 'isWantedNew'>,
): Shortfall {
  const { fromOurs, fromTheirs, baseToOurs, baseToTheirs } = steps;
  const base = ours.from;
  const promised = new Set<number>();
  baseToTheirs.pairing.toB.forEach((t, b) => {
    if (t < 0 || baseToTheirs.edited.has(t)) promised.add(b);
  });
  const decided = clashed(
    clashes.flatMap((c) => c.base),
    base,
  );
  const actedOn = new Set(acts.flatMap((act) => (act.do === 'remove' ? [act.ours] : [])));
  return {
    unwanted: countUnwanted(ours, theirs, promised, fromOurs, fromTheirs, baseToOurs, actedOn),
    missing: countMissing(theirs, ours, { baseToOurs, baseToTheirs, fromTheirs }, decided, acts, wanted),
  };
}

/** Parts of nodes that somebody has to decide on. */
function clashed(nodes: readonly number[], base: Side): Set<number> {
  const parts = new Set<number>();
  for (const node of nodes) {
    if (node < 0) continue;
    const { start, end } = base.source.nodes[node] ?? { start: 0, end: 0 };
    base.nodeOfPart.forEach((n, part) => {
      const at = base.source.nodes[n];
      if (at && at.start >= start && at.end <= end) parts.add(part);
    });
  }
  return parts;
}

/** Parts that differ from ours although theirs did nothing to them. */
function countUnwanted(
  ours: SourceEdits,
  theirs: SourceEdits,
  promised: ReadonlySet<number>,
  fromOurs: Step,
  fromTheirs: Step,
  baseToOurs: Step,
  actedOn: ReadonlySet<number>,
): number {
  let unwanted = 0;
  const isPromised = (o: number): boolean => {
    const b = baseToOurs.pairing.toA[o] ?? -1;
    return b >= 0 ? promised.has(b) : isActedOn(o);
  };
  const isActedOn = (o: number): boolean => {
    for (let at = ours.to.nodeOfPart[o] ?? -1; at >= 0; at = ours.to.source.nodes[at]?.parent ?? -1)
      if (actedOn.has(at)) return true;
    return false;
  };
  fromOurs.pairing.toB.forEach((r, o) => {
    if ((r < 0 || fromOurs.edited.has(r)) && !isPromised(o)) unwanted++;
  });
  fromOurs.pairing.toA.forEach((o, r) => {
    if (o >= 0) return;
    // What ours has not must be what theirs has.
    const t = fromTheirs.pairing.toA[r] ?? -1;
    if (t < 0 || theirs.to.nodeOfPart[t] === -1) unwanted++;
  });
  return unwanted;
}

/** Parts that theirs changed or put in, and that are not so in the result. */
function countMissing(
  theirs: SourceEdits,
  ours: SourceEdits,
  { baseToOurs, baseToTheirs, fromTheirs }: Pick<Steps, 'baseToOurs' | 'baseToTheirs' | 'fromTheirs'>,
  decided: ReadonlySet<number>,
  acts: readonly Act[],
  wanted: Pick<Wanted, 'isWanted' | 'isWantedNew'>,
): number {
  const put = new Set(acts.flatMap((act) => (act.do === 'insert' ? [act.theirs] : [])));
  let missing = 0;
  baseToTheirs.pairing.toA.forEach((b, t) => {
    const node = theirs.to.nodeOfPart[t] ?? -1;
    if (b >= 0) {
      const isOurs = baseToOurs.pairing.toB[b] === -1 || baseToOurs.edited.has(baseToOurs.pairing.toB[b] as number);
      if (!baseToTheirs.edited.has(t) || isOurs || decided.has(b)) return;
      if (!wanted.isWanted(theirs.from.nodeOfPart[b] ?? -1)) return;
    } else if (!isPut(theirs, node, put) || !wanted.isWantedNew(node)) return;
    const r = fromTheirs.pairing.toB[t] ?? -1;
    // What is new may look otherwise where ours changed what it lies in, or is drawn with.
    const isNew = b < 0;
    if (r < 0 || (fromTheirs.edited.has(r) && !(isNew && hangsOn(theirs, node, ours.changed)))) missing++;
  });
  return missing;
}

/** Whether one of these nodes of the base holds a node of theirs, or is what it is drawn with. */
function hangsOn({ to: { source }, pairs }: SourceEdits, node: number, changed: ReadonlySet<number>): boolean {
  const named = new Map(source.nodes.flatMap(({ keys }, k) => keys.map((key) => [key, k] as const)));
  const seen = new Set<number>();
  const pending = [node];
  for (let at = pending.pop(); at !== undefined; at = pending.pop()) {
    if (seen.has(at)) continue;
    seen.add(at);
    if (changed.has(pairs.toX[at] as number)) return true;
    for (const key of source.refersTo(at)) {
      const there = named.get(key);
      if (there !== undefined) pending.push(...within(source, there));
    }
    for (const holder of around(source, at)) if (changed.has(pairs.toX[holder] as number)) return true;
  }
  return false;
}

function isPut({ to }: SourceEdits, node: number, put: ReadonlySet<number>): boolean {
  for (let at = node; at >= 0; at = to.source.nodes[at]?.parent ?? -1) if (put.has(at)) return true;
  return false;
}

/**
 * Where all that comes is new: nothing of ours may change, and as many parts must come as were promised. How they look
 * may follow layers and styles of the same names that ours has.
 */
export function shortfallBeside(
  { to }: SourceEdits,
  { acts }: ThreeWay,
  fromOurs: Step,
  wanted: Pick<Wanted, 'isWantedNew'>,
): Shortfall {
  let promised = 0;
  for (const act of acts) {
    if (act.do !== 'insert') continue;
    for (const part of partsWithin(to, act.theirs)) if (wanted.isWantedNew(to.nodeOfPart[part] as number)) promised++;
  }
  const { toA, toB } = fromOurs.pairing;
  const came = toA.reduce((n, i) => n + (i < 0 ? 1 : 0), 0);
  const unwanted = toB.reduce((n, j) => n + (j < 0 || fromOurs.edited.has(j) ? 1 : 0), 0);
  return { unwanted: unwanted + Math.max(0, came - promised), missing: Math.max(0, promised - came) };
}
