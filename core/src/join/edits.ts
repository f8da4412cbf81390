/** What was done to the records of a source on the way to another version of it. */
import type { Step } from '../kinds/kind.ts';
import { longestRising } from '../match/rising.ts';
import type { Rename } from '../model/source.ts';
import { pairNodes, renaming, type NodePairs } from './pair-nodes.ts';
import { around, nodeAt, partsWithin, type Side } from './side.ts';

export interface SourceEdits {
  readonly from: Side;
  readonly to: Side;
  readonly pairs: NodePairs;
  /** Keys of `to` as `from` calls them. */
  readonly names: ReadonlyMap<string, string>;
  /** Nodes of `from` whose own statement changed; of a part, so that it shows. */
  readonly changed: ReadonlySet<number>;
  /** The same, where it does not show: spelled otherwise, or noted for a program. */
  readonly respelled: ReadonlySet<number>;
  /** Nodes of `from` that are gone, without those within one that is gone. */
  readonly removed: ReadonlySet<number>;
  /** Nodes of `from` that stand elsewhere among others, or within something else. */
  readonly moved: ReadonlySet<number>;
  /** Nodes of `to` that are new, without those within one that is new. */
  readonly inserted: readonly number[];
}

/** `step`: what was done to what the two show. */
export function editsBetween(from: Side, to: Side, step: Step): SourceEdits {
  const pairs = pairNodes(from, to, step.pairing);
  const names = renaming(to, from, { toY: pairs.toX, toX: pairs.toY });
  const shown = new Set<number>();
  for (const j of step.edited) shown.add(pairs.toX[to.nodeOfPart[j] as number] ?? -1);
  const changed = new Set<number>();
  const respelled = new Set<number>();
  const rename: Rename = (key) => names.get(key) ?? key;
  for (const [p, q] of pairs.toY.entries()) {
    if (q < 0 || isSameStatement(from, to, p, q, rename)) continue;
    const isPart = (from.partOfNode[p] as number) >= 0;
    if (from.source.isHousekeeping(p) || (isPart && !shown.has(p))) respelled.add(p);
    else changed.add(p);
  }
  return {
    from,
    to,
    pairs,
    names,
    changed,
    respelled,
    removed: tops(from, pairs.toY),
    moved: movedNodes(from, to, pairs),
    inserted: [...tops(to, pairs.toX)],
  };
}

/** Unpaired nodes that stand in no other unpaired one. */
function tops({ source }: Side, pairs: Int32Array): Set<number> {
  const found = new Set<number>();
  pairs.forEach((there, node) => {
    if (there >= 0) return;
    if ((pairs[nodeAt(source, node).parent] as number) >= 0) found.add(node);
  });
  return found;
}

function isSameStatement(x: Side, y: Side, p: number, q: number, rename: Rename): boolean {
  if (isSameBytes(x, y, p, q)) return true;
  const own = x.source.fields(p);
  const other = y.source.fields(q, rename);
  if (own.size !== other.size) return false;
  for (const [name, value] of own) if (other.get(name) !== value) return false;
  return true;
}

/** Of nodes that hold others, only whether all of it is the same. */
function isSameBytes(x: Side, y: Side, p: number, q: number): boolean {
  const [a, b] = [nodeAt(x.source, p), nodeAt(y.source, q)];
  const length = a.end - a.start;
  if (a.children.length || b.children.length || length !== b.end - b.start) return false;
  const [bytesA, bytesB] = [x.source.bytes, y.source.bytes];
  for (let k = 0; k < length; k++) if (bytesA[a.start + k] !== bytesB[b.start + k]) return false;
  return true;
}

/** Another parent, or another place among those that stayed. */
function movedNodes(from: Side, to: Side, { toY, toX }: NodePairs): Set<number> {
  const moved = new Set<number>();
  for (const [p, q] of toY.entries()) {
    if (q <= 0) continue;
    const parent = nodeAt(from.source, p).parent;
    if (toY[parent] !== nodeAt(to.source, q).parent) moved.add(p);
  }
  if (from.source.order === 'never') return moved;
  for (const [p, q] of toY.entries()) {
    if (q < 0) continue;
    const kept = nodeAt(from.source, p).children.filter((c) => (toY[c] as number) >= 0 && !moved.has(c));
    const order = new Map(nodeAt(to.source, q).children.map((c, k) => [toX[c] as number, k]));
    const places = kept.map((c) => order.get(c) ?? -1);
    const inOrder = new Set(longestRising(places));
    kept.forEach((c, k) => {
      if (!inOrder.has(places[k] as number)) moved.add(c);
    });
  }
  return moved;
}

/** Parts that an edit of a node shows in: those within, and those that are drawn with what it is or holds. */
export class Effects {
  private readonly side: Side;
  private readonly users = new Map<string, number[]>();

  constructor(side: Side) {
    this.side = side;
    side.source.nodes.forEach((_, node) => {
      for (const key of side.source.refersTo(node)) {
        const users = this.users.get(key);
        if (users) users.push(node);
        else this.users.set(key, [node]);
      }
    });
  }

  /** Indices of parts of the design. */
  of(node: number): Set<number> {
    const parts = new Set<number>();
    const seen = new Set<number>();
    const pending = [node];
    for (let at = pending.pop(); at !== undefined; at = pending.pop()) {
      if (seen.has(at)) continue;
      seen.add(at);
      for (const part of partsWithin(this.side, at)) parts.add(part);
      for (const holder of [at, ...around(this.side.source, at)])
        for (const key of nodeAt(this.side.source, holder).keys) pending.push(...(this.users.get(key) ?? []));
    }
    return parts;
  }
}
