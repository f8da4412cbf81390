/**
 * Pairs the parts of two designs. Each step takes only what the earlier ones left:
 *   same key and content → (keys proved) same key → same content and place → same within tolerance
 *   → same place → same form elsewhere (moved) → same neighbours → cheapest assignment nearby.
 * Keys are evidence, not proof: whether to believe them is measured first.
 */
import Flatbush from 'flatbush';
import { centreX, centreY, diagonal, gap, height, width, type Box } from '../geometry/box.ts';
import type { Design, Part } from '../model/design.ts';
import { similarity } from '../text/similarity.ts';
import { assign, type Candidate } from './assign.ts';
import { anchorOf, familyOf, fingerprints, wordsOf, type Prints } from './fingerprints.ts';
import { pairMoved } from './moved.ts';
import type { Pairing } from './pairing.ts';
import { sameGeometry } from './same-geometry.ts';

/** Share of common keys that must agree before keys are believed. */
const TRUST = 0.6;
/** Above this cost two leftover parts are taken for different things. */
const SAME_THING = 0.45;
/** Parts nearby that are considered for each leftover part. */
const NEIGHBOURS = 8;

export function matchParts(a: Design, b: Design, tolerance: number): Pairing {
  return new Matcher(a, b, tolerance).run();
}

class Matcher {
  private readonly toB: Int32Array;
  private readonly toA: Int32Array;
  private readonly printsA: Prints;
  private readonly printsB: Prints;
  private keysTrusted = false;
  private readonly a: Design;
  private readonly b: Design;
  private readonly tolerance: number;

  constructor(a: Design, b: Design, tolerance: number) {
    this.a = a;
    this.b = b;
    this.tolerance = tolerance;
    this.toB = new Int32Array(a.parts.length).fill(-1);
    this.toA = new Int32Array(b.parts.length).fill(-1);
    this.printsA = fingerprints(a, tolerance);
    this.printsB = fingerprints(b, tolerance);
  }

  run(): Pairing {
    this.byKey();
    this.byContentAndPlace();
    this.bySamePlace();
    this.byForm();
    this.byNeighbours();
    this.byCost();
    return { toB: this.toB, toA: this.toA, keysTrusted: this.keysTrusted };
  }

  private pair(i: number, j: number): void {
    this.toB[i] = j;
    this.toA[j] = i;
  }

  private partA = (i: number): Part => this.a.parts[i] as Part;
  private partB = (j: number): Part => this.b.parts[j] as Part;

  private left(side: 'a' | 'b'): number[] {
    const to = side === 'a' ? this.toB : this.toA;
    const out: number[] = [];
    for (let i = 0; i < to.length; i++) if (to[i] === -1) out.push(i);
    return out;
  }

  private whole(prints: Prints, i: number): string {
    return `${prints.form[i]}${prints.look[i]}${prints.place[i]}`;
  }

  /** Two parts whose believed keys differ are different things, however alike they look. */
  private keysDisagree(i: number, j: number): boolean {
    const a = this.partA(i).key, b = this.partB(j).key;
    return this.keysTrusted && a !== undefined && b !== undefined && a !== b;
  }

  private byKey(): void {
    const keysB = new Map<string, number>();
    this.b.parts.forEach((p, j) => {
      if (p.key !== undefined && !keysB.has(p.key)) keysB.set(p.key, j);
    });
    const common: [number, number][] = [];
    const seen = new Set<string>();
    this.a.parts.forEach((p, i) => {
      const j = p.key === undefined || seen.has(p.key) ? undefined : keysB.get(p.key);
      if (p.key !== undefined) seen.add(p.key);
      if (j !== undefined) common.push([i, j]);
    });
    if (!common.length) return;
    const contentA = new Set(this.a.parts.map((_, i) => this.whole(this.printsA, i)));
    const contentB = new Set(this.b.parts.map((_, j) => this.whole(this.printsB, j)));
    let agree = 0, contradict = 0, alike = 0;
    for (const [i, j] of common) {
      const x = this.whole(this.printsA, i), y = this.whole(this.printsB, j);
      if (x === y) {
        agree++;
        this.pair(i, j);
      } else if (contentB.has(x) || contentA.has(y)) contradict++;
      else if (familyOf(this.partA(i)) === familyOf(this.partB(j)) &&
        (this.printsA.form[i] === this.printsB.form[j] || this.printsA.place[i] === this.printsB.place[j])) alike++;
    }
    const unsure = common.length - agree - contradict;
    this.keysTrusted = agree + contradict >= 3
      ? agree / (agree + contradict) >= TRUST
      : contradict === 0 && (agree > 0 || alike >= unsure * 0.5);
    if (!this.keysTrusted) return;
    for (const [i, j] of common) {
      if (this.toB[i] !== -1 || this.toA[j] !== -1 || familyOf(this.partA(i)) !== familyOf(this.partB(j))) continue;
      const sameForm = this.printsA.form[i] === this.printsB.form[j];
      const elsewhere = contentB.has(this.whole(this.printsA, i)) || contentA.has(this.whole(this.printsB, j));
      if (sameForm || !elsewhere) this.pair(i, j);
    }
  }

  private byContentAndPlace(): void {
    const buckets = new Map<string, number[]>();
    for (const j of this.left('b')) {
      const print = this.whole(this.printsB, j);
      const bucket = buckets.get(print);
      if (bucket) bucket.push(j);
      else buckets.set(print, [j]);
    }
    for (const i of this.left('a')) {
      const bucket = buckets.get(this.whole(this.printsA, i));
      if (!bucket?.length) continue;
      const { category } = this.partA(i);
      const sameLayer = bucket.findIndex((j) => this.partB(j).category === category);
      const [j] = bucket.splice(Math.max(0, sameLayer), 1);
      if (j !== undefined) this.pair(i, j);
    }
  }

  /** Equal within tolerance first; then parts of one family that fill the same box or begin at the same point. */
  private bySamePlace(): void {
    const index = this.indexB((part) => familyOf(part));
    if (!index) return;
    const reach = this.tolerance * 2;
    const candidates: Candidate[] = [];
    for (const i of this.left('a')) {
      const part = this.partA(i);
      if (!part.box) continue;
      const anchor = anchorOf(part);
      for (const j of index.search(part.box, reach)) {
        const other = this.partB(j);
        if (familyOf(other) !== familyOf(part)) continue;
        const sameBox = boxesAgree(part.box, other.box, reach);
        const otherAnchor = anchorOf(other);
        const sameAnchor = part.kind === 'text' && anchor !== undefined && otherAnchor !== undefined &&
          Math.abs(anchor[0] - otherAnchor[0]) <= reach && Math.abs(anchor[1] - otherAnchor[1]) <= reach;
        if (!sameBox && !sameAnchor) continue;
        const sameForm = sameBox && (this.printsA.form[i] === this.printsB.form[j] || sameGeometry(this.a, part, this.b, other, reach));
        if (!sameForm && this.keysDisagree(i, j)) continue;
        const cost = (sameForm ? 0 : 1) + (this.printsA.look[i] === this.printsB.look[j] ? 0 : 0.5) +
          (part.category === other.category ? 0 : 0.25) + (part.kind === 'text' ? 0.2 * (1 - similarity(wordsOf(part), wordsOf(other))) : 0);
        candidates.push({ a: i, b: j, cost });
      }
    }
    for (const c of assign(candidates)) this.pair(c.a, c.b);
  }

  private byForm(): void {
    const distinctive = (i: number): boolean => {
      const part = this.partA(i);
      const { starts } = this.a.geometry;
      const points = (starts[part.firstSubpath + part.subpaths] ?? 0) - (starts[part.firstSubpath] ?? 0);
      return points >= 8 || wordsOf(part).length >= 4;
    };
    const known = this.knownShifts();
    for (const print of [(p: Prints, i: number) => `${p.form[i]}${p.look[i]}`, (p: Prints, i: number) => p.form[i] as string]) {
      const buckets = new Map<string, { a: number[]; b: number[] }>();
      const bucketOf = (key: string): { a: number[]; b: number[] } => {
        const bucket = buckets.get(key) ?? { a: [], b: [] };
        buckets.set(key, bucket);
        return bucket;
      };
      for (const i of this.left('a')) bucketOf(print(this.printsA, i)).a.push(i);
      for (const j of this.left('b')) bucketOf(print(this.printsB, j)).b.push(j);
      const usable = [...buckets.values()].flatMap((bucket) => {
        if (!bucket.a.length || !bucket.b.length) return [];
        if (!this.keysTrusted) return [bucket];
        const single = bucket.a.length === 1 && bucket.b.length === 1 && distinctive(bucket.a[0] as number);
        const open = { a: bucket.a.filter((i) => this.partA(i).key === undefined), b: bucket.b.filter((j) => this.partB(j).key === undefined) };
        return single ? [bucket] : open.a.length && open.b.length ? [open] : [];
      });
      const pairs = pairMoved(usable, (i) => anchorOf(this.partA(i)), (j) => anchorOf(this.partB(j)), this.tolerance * 4, known);
      for (const [i, j] of pairs) this.pair(i, j);
    }
  }

  /** How far the parts went that are already known to have moved. */
  private knownShifts(): [number, number][] {
    const out: [number, number][] = [];
    for (let i = 0; i < this.toB.length && out.length < 5000; i++) {
      const j = this.toB[i] as number;
      if (j < 0 || this.printsA.place[i] === this.printsB.place[j] || this.printsA.form[i] !== this.printsB.form[j]) continue;
      const from = anchorOf(this.partA(i)), to = anchorOf(this.partB(j));
      if (from && to) out.push([to[0] - from[0], to[1] - from[1]]);
    }
    return out;
  }

  /** A leftover part between two paired neighbours is the leftover part between their counterparts, if it is plausible. */
  private byNeighbours(): void {
    for (const i of this.left('a')) {
      const before = i > 0 ? (this.toB[i - 1] as number) : -1;
      const after = i + 1 < this.toB.length ? (this.toB[i + 1] as number) : this.toA.length;
      const j = before + 1;
      if (j >= this.toA.length || this.toA[j] !== -1) continue;
      const enclosed = (i === 0 || before >= 0) && after === j + 1;
      if (enclosed && !this.keysDisagree(i, j) && this.cost(i, j) < SAME_THING * 1.4) this.pair(i, j);
    }
  }

  private byCost(): void {
    const index = this.indexB((part) => part.kind);
    if (!index) return;
    const candidates: Candidate[] = [];
    for (const i of this.left('a')) {
      const { box, kind } = this.partA(i);
      if (!box) continue;
      for (const j of index.nearest(centreX(box), centreY(box), kind)) {
        if (this.keysDisagree(i, j)) continue;
        const cost = this.cost(i, j);
        if (cost < SAME_THING) candidates.push({ a: i, b: j, cost });
      }
    }
    for (const c of assign(candidates)) this.pair(c.a, c.b);
  }

  /** 0 for the same thing, 1 for things with nothing in common. */
  private cost(i: number, j: number): number {
    const a = this.partA(i), b = this.partB(j);
    if (familyOf(a) !== familyOf(b)) return 1;
    if (!a.box || !b.box) return a.name === b.name ? 0 : 1;
    const reach = 2 * Math.max(diagonal(a.box), diagonal(b.box)) + this.tolerance;
    const place = Math.min(1, (Math.hypot(centreX(a.box) - centreX(b.box), centreY(a.box) - centreY(b.box)) + gap(a.box, b.box)) / reach);
    const extent = width(a.box) + width(b.box) + height(a.box) + height(b.box) + this.tolerance;
    const size = (Math.abs(width(a.box) - width(b.box)) + Math.abs(height(a.box) - height(b.box))) / extent;
    const look = this.printsA.look[i] === this.printsB.look[j] ? 0 : 1;
    const layer = a.category === b.category ? 0 : 1;
    if (a.kind === 'text') return 0.5 * (1 - similarity(wordsOf(a), wordsOf(b))) + 0.35 * place + 0.1 * look + 0.05 * layer;
    const definition = a.definition === undefined || b.definition === undefined ? 0
      : this.a.definitions[a.definition]?.key === this.b.definitions[b.definition]?.key ? -0.1 : 0.3;
    return 0.45 * place + 0.35 * size + 0.12 * look + 0.08 * layer + definition + (a.kind === b.kind ? 0 : 0.15);
  }

  /** Spatial index of what is left of B; undefined if nothing is left on one side. */
  private indexB(group: (part: Part) => string): { search: (box: Box, reach: number) => number[]; nearest: (x: number, y: number, group: string) => number[] } | undefined {
    const rest = this.left('b').filter((j) => this.partB(j).box);
    if (!rest.length || !this.toB.includes(-1)) return undefined;
    const tree = new Flatbush(rest.length);
    for (const j of rest) {
      const [x0, y0, x1, y1] = this.partB(j).box as Box;
      tree.add(x0, y0, x1, y1);
    }
    tree.finish();
    const own = (k: number): number => rest[k] as number;
    return {
      // A box that agrees within `reach` must contain a point near the corner, so search there and not over the whole box.
      search: (box, reach) => tree.search(box[0] - reach, box[1] - reach, box[0] + reach, box[1] + reach).map(own)
        .concat(tree.search(box[0] - reach, box[3] - reach, box[0] + reach, box[3] + reach).map(own))
        .filter((j, k, all) => this.toA[j] === -1 && all.indexOf(j) === k),
      nearest: (x, y, name) => tree.neighbors(x, y, NEIGHBOURS, Infinity, (k) => this.toA[own(k)] === -1 && group(this.partB(own(k))) === name).map(own),
    };
  }
}

const boxesAgree = (a: Box, b: Box | undefined, reach: number): boolean =>
  b !== undefined && a.every((v, k) => Math.abs(v - (b[k] as number)) <= reach);
