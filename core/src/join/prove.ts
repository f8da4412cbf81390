/** What was made is read again and compared: it must be what was promised, and nothing else. */
import type { Step } from '../kinds/kind.ts';
import type { Side } from './side.ts';
import type { Act, ThreeWay, Wanted } from './three-way.ts';
import type { SourceEdits } from './edits.ts';

/** Parts of the result that are not as they should be: `unwanted` should be as in ours, `missing` as in theirs. */
export interface Shortfall {
  readonly unwanted: number;
  readonly missing: number;
}

/** `fromOurs` and `fromTheirs`: what leads from either side to the result, by what the two show. */
export function shortfall(
  ours: SourceEdits,
  theirs: SourceEdits,
  { acts, clashes }: ThreeWay,
  steps: { readonly fromOurs: Step; readonly fromTheirs: Step; readonly baseToOurs: Step; readonly baseToTheirs: Step },
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
    missing: countMissing(theirs, baseToOurs, baseToTheirs, fromTheirs, decided, acts, wanted),
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
  baseToOurs: Step,
  baseToTheirs: Step,
  fromTheirs: Step,
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
    if (r < 0 || fromTheirs.edited.has(r)) missing++;
  });
  return missing;
}

function isPut({ to }: SourceEdits, node: number, put: ReadonlySet<number>): boolean {
  for (let at = node; at >= 0; at = to.source.nodes[at]?.parent ?? -1) if (put.has(at)) return true;
  return false;
}
