/** Which record of one source is which of another. Parts are paired by what they show; the rest by name and by place. */
import type { Pairing } from '../match/pairing.ts';
import { nodeAt, type Side } from './side.ts';

export interface NodePairs {
  /** For each node of X its node in Y, −1 for none; and the other way round. */
  readonly toY: Int32Array;
  readonly toX: Int32Array;
}

/** Keys that programs give and nobody reads: of these it does not matter which one it is. */
export const isOpaque = (key: string): boolean => key.startsWith('#') || key.startsWith('handle ');

export const pairNodes = (x: Side, y: Side, parts: Pick<Pairing, 'toB' | 'renumbered'>): NodePairs =>
  new PairingNodes(x, y).run(parts);

class PairingNodes {
  private readonly toY: Int32Array;
  private readonly toX: Int32Array;
  private readonly x: Side;
  private readonly y: Side;

  constructor(x: Side, y: Side) {
    this.x = x;
    this.y = y;
    this.toY = new Int32Array(x.source.nodes.length).fill(-1);
    this.toX = new Int32Array(y.source.nodes.length).fill(-1);
  }

  run({ toB, renumbered }: Pick<Pairing, 'toB' | 'renumbered'>): NodePairs {
    this.pair(0, 0);
    toB.forEach((j, i) => {
      if (j < 0) return;
      const [p, q] = [this.x.nodeOfPart[i] as number, this.y.nodeOfPart[j] as number];
      if (p >= 0 && q >= 0 && this.isAlike(p, q)) this.pair(p, q);
    });
    this.byName(renumbered);
    this.byContents();
    this.byPlace();
    return { toY: this.toY, toX: this.toX };
  }

  private pair(p: number, q: number): void {
    this.toY[p] = q;
    this.toX[q] = p;
  }

  private isAlike(p: number, q: number): boolean {
    return nodeAt(this.x.source, p).kind === nodeAt(this.y.source, q).kind;
  }

  private isFree(p: number, q: number): boolean {
    return this.toY[p] === -1 && this.toX[q] === -1 && this.isAlike(p, q);
  }

  private byName(renumbered: boolean): void {
    const named = new Map<string, number>();
    this.y.source.nodes.forEach(({ keys, kind }, q) => {
      if (this.toX[q] !== -1) return;
      for (const key of keys) {
        const name = `${key}\n${kind}`;
        named.set(name, named.has(name) ? -1 : q);
      }
    });
    this.x.source.nodes.forEach(({ keys, kind }, p) => {
      if (this.toY[p] !== -1) return;
      for (const key of keys) {
        const q = named.get(`${key}\n${kind}`) ?? -1;
        if (q < 0 || !this.isFree(p, q) || !isNoPart(this.x, p) || !isNoPart(this.y, q)) continue;
        if (!renumbered || !isOpaque(key)) this.pair(p, q);
      }
    });
  }

  /** Groups and blocks whose contents found one another. From the inside out. */
  private byContents(): void {
    for (let p = this.toY.length - 1; p > 0; p--) {
      const { children } = nodeAt(this.x.source, p);
      if (this.toY[p] !== -1 || children.length === 0) continue;
      const votes = new Map<number, number>();
      for (const child of children) {
        const there = this.toY[child] as number;
        if (there < 0) continue;
        const q = nodeAt(this.y.source, there).parent;
        votes.set(q, (votes.get(q) ?? 0) + 1);
      }
      const [best] = [...votes].sort((a, b) => b[1] - a[1]);
      if (best && best[0] > 0 && best[1] * 2 >= children.length && this.isFree(p, best[0])) this.pair(p, best[0]);
    }
  }

  /** What is left under paired parents: first what says the same, then in order. */
  private byPlace(): void {
    for (let p = 0; p < this.toY.length; p++) {
      const q = this.toY[p] as number;
      if (q < 0) continue;
      const left = nodeAt(this.x.source, p).children.filter((c) => this.toY[c] === -1 && isNoPart(this.x, c));
      const right = left.length
        ? nodeAt(this.y.source, q).children.filter((c) => this.toX[c] === -1 && isNoPart(this.y, c))
        : [];
      if (right.length === 0) continue;
      this.bySameWords(left, right);
      this.inTurn(left, right);
    }
  }

  private bySameWords(left: readonly number[], right: readonly number[]): void {
    const same = new Map<string, number[]>();
    for (const r of right) {
      const print = printOf(this.y, r);
      const others = same.get(print);
      if (others) others.push(r);
      else same.set(print, [r]);
    }
    for (const l of left) {
      const r = same.get(printOf(this.x, l))?.shift();
      if (r !== undefined) this.pair(l, r);
    }
  }

  private inTurn(left: readonly number[], right: readonly number[]): void {
    let from = 0;
    for (const l of left) {
      if (this.toY[l] !== -1 || isNamed(this.x, l)) continue;
      const at = right.findIndex((r, k) => k >= from && this.isFree(l, r) && !isNamed(this.y, r));
      if (at < 0) continue;
      this.pair(l, right[at] as number);
      from = at + 1;
    }
  }
}

/** Parts that what they show did not bring together stay apart. */
const isNoPart = (side: Side, node: number): boolean => (side.partOfNode[node] as number) < 0;

/** Called by a name that a person gave: another name is another thing. */
const isNamed = ({ source }: Side, node: number): boolean => nodeAt(source, node).keys.some((key) => !isOpaque(key));

const printOf = ({ source }: Side, node: number): string =>
  `${nodeAt(source, node).kind}\n${[...source.fields(node)].map(([name, value]) => `${name}=${value}`).join('\n')}`;

/** What keys of X are called in Y: those that nobody reads follow their nodes. */
export function renaming(x: Side, y: Side, { toY }: NodePairs): Map<string, string> {
  const names = new Map<string, string>();
  toY.forEach((q, p) => {
    if (q < 0) return;
    const own = nodeAt(x.source, p).keys.filter(isOpaque);
    const other = nodeAt(y.source, q).keys.filter(isOpaque);
    own.forEach((key, k) => {
      const there = other[k];
      if (there !== undefined) names.set(key, there);
    });
  });
  return names;
}
