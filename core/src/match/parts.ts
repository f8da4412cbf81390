/**
 * Pairs the parts of two designs. Each step takes only what the earlier ones left:
 *   same key and content → (keys proved) same key → same content and place → texts that a new line pushed along →
 * same within tolerance
 *   → same place → turned or scaled together → same form elsewhere (moved) → same neighbours → cheapest assignment
 * nearby. Keys are evidence, not proof: whether to believe them is measured first.
 */
import Flatbush from 'flatbush';
import { centreX, centreY, diagonal, gap, height, width, type Box } from '../geometry/box.ts';
import type { Point3 } from '../mesh/mesh.ts';
import type { Design, Part } from '../model/design.ts';
import { similarity } from '../text/similarity.ts';
import { assign, type Candidate } from './assign.ts';
import { pairMoved } from './moved.ts';
import type { Pairing } from './pairing.ts';
import { riseBetween, risesAgree } from './rise.ts';
import { sameGeometry } from './same-geometry.ts';
import { pairTurned } from './turned.ts';
import { isPlaced, traitsOf, wordsOf, type Traits } from './traits.ts';

/** Share of common keys that must agree before keys are believed. */
const TRUST = 0.6;
/** Above this cost two leftover parts are taken for different things. */
const SAME_THING = 0.45;
/** Parts nearby that are considered for each leftover part. */
const NEIGHBOURS = 8;

/** Characters of a text that is told by its words wherever it stands; numbers and labels are not. */
const SENTENCE = 12;
/** Sentences that must have gone equally far before labels are taken to have gone along. */
const PUSHED = 3;

/** Parts at one and the same place that are told apart by place; what is more is paired by form and order. */
const CROWD = 48;

/** Numbers of the definitions of both sides: equal for equal content. */
export interface DefinitionClasses {
  readonly a: readonly number[];
  readonly b: readonly number[];
}

export function matchParts(a: Design, b: Design, tolerance: number, classes?: DefinitionClasses): Pairing {
  const many = a.pages.length > 1 && b.pages.length > 1;
  const keyed = many && [a, b].some((d) => d.parts.some((p) => p.key !== undefined));
  return many && !keyed ? byPage(a, b, tolerance, classes) : new Matcher(a, b, tolerance, classes).run();
}

/**
 * Page by page, where no keys lead from one page to another: pages lie over one another, and hundreds would be one
 * crowd.
 */
function byPage(a: Design, b: Design, tolerance: number, classes: DefinitionClasses | undefined): Pairing {
  const toB = new Int32Array(a.parts.length).fill(-1);
  const toA = new Int32Array(b.parts.length).fill(-1);
  const onPage = (design: Design): number[][] => {
    const out = design.pages.map((): number[] => []);
    design.parts.forEach((p, i) => out[p.page]?.push(i));
    return out;
  };
  const inA = onPage(a);
  const inB = onPage(b);
  const part = (design: Design, list: readonly number[]): Design => ({
    ...design,
    parts: list.map((i) => ({ ...(design.parts[i] as Part), page: 0 })),
    pages: [design.pages[design.parts[list[0] as number]?.page ?? 0] ?? { name: '', box: [0, 0, 1, 1] }],
  });
  b.pages.forEach((page, j) => {
    const named = a.pages.findIndex((p) => p.name === page.name);
    const k = named >= 0 ? named : j;
    const [listA = [], listB = []] = [inA[k], inB[j]];
    if (!listA.length || !listB.length) return;
    new Matcher(part(a, listA), part(b, listB), tolerance, classes).run().toB.forEach((to, from) => {
      if (to < 0) return;
      toB[listA[from] as number] = listB[to] as number;
      toA[listB[to] as number] = listA[from] as number;
    });
  });
  return { toB, toA, keysTrusted: false, renumbered: false };
}

class Matcher {
  private readonly toB: Int32Array;
  private readonly toA: Int32Array;
  private readonly inA: Traits;
  private readonly inB: Traits;
  private keysTrusted = false;
  private renumbered = false;
  private readonly a: Design;
  private readonly b: Design;
  private readonly tolerance: number;

  constructor(a: Design, b: Design, tolerance: number, classes: DefinitionClasses | undefined) {
    this.a = a;
    this.b = b;
    this.tolerance = tolerance;
    this.toB = new Int32Array(a.parts.length).fill(-1);
    this.toA = new Int32Array(b.parts.length).fill(-1);
    this.inA = traitsOf(a, tolerance, classes?.a);
    this.inB = traitsOf(b, tolerance, classes?.b);
  }

  run(): Pairing {
    this.byKey();
    this.byContentAndPlace();
    this.byPushedTexts();
    this.bySamePlace();
    if (!this.keysTrusted)
      for (const [i, j] of pairTurned(this.a, this.left('a'), this.b, this.left('b'), this.tolerance))
        if (this.samePage(i, j)) this.pair(i, j);
    this.byForm();
    this.byNeighbours();
    this.byCost();
    return { toB: this.toB, toA: this.toA, keysTrusted: this.keysTrusted, renumbered: this.renumbered };
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

  /** Two parts whose believed keys differ are different things, however alike they look. */
  private keysDisagree(i: number, j: number): boolean {
    if (!this.keysTrusted) return false;
    const a = this.partA(i).key;
    const b = this.partB(j).key;
    return a !== undefined && b !== undefined && a !== b;
  }

  private byKey(): void {
    const { inA, inB } = this;
    const keysB = new Map<string, number>();
    this.b.parts.forEach((p, j) => {
      if (p.key !== undefined && !keysB.has(p.key)) keysB.set(p.key, j);
    });
    const common: [number, number][] = [];
    const seen = new Set<string>();
    let keysA = 0;
    this.a.parts.forEach((p, i) => {
      if (p.key === undefined || seen.has(p.key)) return;
      keysA++;
      seen.add(p.key);
      const j = keysB.get(p.key);
      if (j !== undefined) common.push([i, j]);
    });
    this.renumbered = keysA > 2 && keysB.size > 2 && common.length === 0;
    if (!common.length) return;
    const contentA = new Set(inA.whole);
    const contentB = new Set(inB.whole);
    let agree = 0;
    let contradict = 0;
    let alike = 0;
    for (const [i, j] of common) {
      const x = inA.whole[i] as number;
      const y = inB.whole[j] as number;
      if (x === y) {
        agree++;
        this.pair(i, j);
      } else if (contentB.has(x) || contentA.has(y)) contradict++;
      else if (inA.family[i] === inB.family[j] && (inA.form[i] === inB.form[j] || inA.place[i] === inB.place[j]))
        alike++;
    }
    const unsure = common.length - agree - contradict;
    this.keysTrusted =
      agree + contradict >= 3
        ? agree / (agree + contradict) >= TRUST
        : contradict === 0 && (agree > 0 || alike >= unsure * 0.5);
    if (!this.keysTrusted) {
      this.renumbered = contradict > 2;
      return;
    }
    for (const [i, j] of common) {
      if (this.toB[i] !== -1 || this.toA[j] !== -1 || inA.family[i] !== inB.family[j]) continue;
      const elsewhere = contentB.has(inA.whole[i] as number) || contentA.has(inB.whole[j] as number);
      if (inA.form[i] === inB.form[j] || !elsewhere) this.pair(i, j);
    }
  }

  private byContentAndPlace(): void {
    const { inA, inB } = this;
    const buckets = new Map<number, number[]>();
    for (const j of this.left('b')) {
      const bucket = buckets.get(inB.whole[j] as number);
      if (bucket) bucket.push(j);
      else buckets.set(inB.whole[j] as number, [j]);
    }
    for (const i of this.left('a')) {
      const bucket = buckets.get(inA.whole[i] as number);
      if (!bucket?.length) continue;
      const { category, page } = this.partA(i);
      const alike = bucket.findIndex((j) => this.partB(j).category === category && this.partB(j).page === page);
      const [j] = bucket.splice(Math.max(0, alike), 1);
      if (j !== undefined && this.samePage(i, j)) this.pair(i, j);
    }
  }

  /** Pages correspond by name, or else by order. */
  private samePage(i: number, j: number): boolean {
    if (this.a.pages.length === 1 && this.b.pages.length === 1) return true;
    const a = this.partA(i).page;
    const b = this.partB(j).page;
    return this.a.pages[a]?.name === this.b.pages[b]?.name || a === b;
  }

  /** Equal within tolerance first; then parts of one family that fill the same box or begin at the same point. */
  private bySamePlace(): void {
    const { inA, inB } = this;
    const index = this.indexB(inB.family);
    if (!index) return;
    const reach = this.tolerance * 2;
    const elsewhere = this.sentencesOnBothSides();
    const candidates: Candidate[] = [];
    for (const i of this.left('a')) {
      const part = this.partA(i);
      if (!part.box) continue;
      const words = wordsOf(part);
      const anchored = words !== '' || isPlaced(part);
      const middle: readonly [number, number] | undefined = round.has(part.kind)
        ? [centreX(part.box), centreY(part.box)]
        : undefined;
      for (const j of index.near(part.box, reach, anchored ? [inA.x[i] as number, inA.y[i] as number] : middle)) {
        const other = this.partB(j);
        if (inB.family[j] !== inA.family[i] || !this.samePage(i, j)) continue;
        const sameBox = boxesAgree(part.box, other.box, reach) && risesAgree(part, other, reach);
        const concentric =
          round.has(part.kind) &&
          other.kind === part.kind &&
          other.box !== undefined &&
          sameMiddle(part.box, other.box, reach);
        const sameAnchor =
          anchored &&
          Math.abs((inA.x[i] as number) - (inB.x[j] as number)) <= reach &&
          Math.abs((inA.y[i] as number) - (inB.y[j] as number)) <= reach &&
          Math.abs((inA.z[i] as number) - (inB.z[j] as number)) <= reach;
        if (!sameBox && !sameAnchor && !concentric) continue;
        const sameForm =
          inA.form[i] === inB.form[j] ||
          (sameBox && !part.space && !isPlaced(part) && sameGeometry(this.a, part, this.b, other, reach));
        if (
          !sameForm &&
          (this.keysDisagree(i, j) || elsewhere.has(inA.form[i] as number) || elsewhere.has(inB.form[j] as number))
        )
          continue;
        const cost =
          (sameForm ? 0 : 1) +
          (inA.look[i] === inB.look[j] ? 0 : 0.5) +
          (part.category === other.category ? 0 : 0.25) +
          (concentric && !sameBox ? 0.4 : 0) +
          (words ? 0.2 * (1 - similarity(words, wordsOf(other))) : 0) +
          (sameAnchor || !anchored ? 0 : 0.3);
        candidates.push({ a: i, b: j, cost });
      }
    }
    for (const c of assign(candidates)) this.pair(c.a, c.b);
  }

  /**
   * Where a line was put into a text or taken out, all that follows stands where something else did: sentences tell
   * how far it went, and numbers and labels went along.
   */
  private byPushedTexts(): void {
    const { inA, inB } = this;
    const both = this.sentencesOnBothSides();
    const texts = (side: 'a' | 'b'): Map<number, number[]> => {
      const out = new Map<number, number[]>();
      const part = side === 'a' ? this.partA : this.partB;
      const { form } = side === 'a' ? inA : inB;
      for (const i of this.left(side))
        if (part(i).lettering) out.set(form[i] as number, [...(out.get(form[i] as number) ?? []), i]);
      return out;
    };
    if (!both.size) return;
    const ofA = texts('a');
    const ofB = texts('b');
    const shifts = new Map<string, { dx: number; dy: number; n: number }>();
    const step = this.tolerance * 4;
    const gone = (i: number, j: number): readonly [number, number] => [
      (inB.x[j] as number) - (inA.x[i] as number),
      (inB.y[j] as number) - (inA.y[i] as number),
    ];
    for (const form of both) {
      const [i, ...moreA] = ofA.get(form) ?? [];
      const [j, ...moreB] = ofB.get(form) ?? [];
      if (i === undefined || j === undefined || moreA.length || moreB.length || !this.samePage(i, j)) continue;
      const [dx, dy] = gone(i, j);
      const key = `${Math.round(dx / step)} ${Math.round(dy / step)}`;
      const known = shifts.get(key);
      shifts.set(key, { dx, dy, n: (known?.n ?? 0) + 1 });
    }
    for (const { dx, dy } of [...shifts.values()]
      .filter(({ n }) => n >= PUSHED)
      .sort((p, q) => q.n - p.n)
      .slice(0, 3)) {
      for (const [form, list] of ofA) {
        for (const i of list) {
          const j = (ofB.get(form) ?? []).find(
            (k) =>
              this.toA[k] === -1 && this.samePage(i, k) && Math.hypot(gone(i, k)[0] - dx, gone(i, k)[1] - dy) <= step,
          );
          if (j !== undefined && this.toB[i] === -1 && !this.keysDisagree(i, j)) this.pair(i, j);
        }
      }
    }
  }

  /**
   * Forms of texts, long enough to be told by their words, that are left in A and in B: where one stands another did,
   * it was pushed along.
   */
  private sentencesOnBothSides(): ReadonlySet<number> {
    const forms = (side: 'a' | 'b'): Set<number> => {
      const part = side === 'a' ? this.partA : this.partB;
      const { form } = side === 'a' ? this.inA : this.inB;
      return new Set(this.left(side).flatMap((i) => (wordsOf(part(i)).length >= SENTENCE ? [form[i] as number] : [])));
    };
    const inB = forms('b');
    return new Set([...forms('a')].filter((form) => inB.has(form)));
  }

  private byForm(): void {
    const { inA, inB } = this;
    const distinctive = (i: number): boolean => {
      const part = this.partA(i);
      const { starts } = this.a.geometry;
      const points = (starts[part.firstSubpath + part.subpaths] ?? 0) - (starts[part.firstSubpath] ?? 0);
      return points >= 8 || wordsOf(part).length >= 4;
    };
    const known = this.knownShifts();
    const anchorOn =
      ({ x, y, z }: Traits) =>
      (k: number): Point3 | undefined =>
        Number.isNaN(x[k]) ? undefined : [x[k] as number, y[k] as number, z[k] as number];
    for (const withLook of [true, false]) {
      const buckets = new Map<number, { a: number[]; b: number[] }>();
      const bucketOf = (traits: Traits, i: number): { a: number[]; b: number[] } => {
        const key = (traits.form[i] as number) + (withLook ? (traits.look[i] as number) / 8 : 0);
        const bucket = buckets.get(key) ?? { a: [], b: [] };
        buckets.set(key, bucket);
        return bucket;
      };
      for (const i of this.left('a')) bucketOf(inA, i).a.push(i);
      for (const j of this.left('b')) bucketOf(inB, j).b.push(j);
      const usable = [...buckets.values()].flatMap((bucket) => {
        if (!bucket.a.length || !bucket.b.length) return [];
        if (!this.keysTrusted) return [bucket];
        const single = bucket.a.length === 1 && bucket.b.length === 1 && distinctive(bucket.a[0] as number);
        const open = {
          a: bucket.a.filter((i) => this.partA(i).key === undefined),
          b: bucket.b.filter((j) => this.partB(j).key === undefined),
        };
        if (single) return [bucket];
        if (open.a.length && open.b.length) return [open];
        return [];
      });
      for (const [i, j] of pairMoved(usable, anchorOn(inA), anchorOn(inB), this.tolerance * 4, known))
        if (this.samePage(i, j)) this.pair(i, j);
    }
  }

  /** How far the parts went that are already known to have moved. */
  private knownShifts(): Point3[] {
    const { inA, inB } = this;
    const out: Point3[] = [];
    for (let i = 0; i < this.toB.length && out.length < 5000; i++) {
      const j = this.toB[i] as number;
      if (j < 0 || inA.place[i] === inB.place[j] || inA.form[i] !== inB.form[j] || Number.isNaN(inA.x[i])) continue;
      const along = (axis: 'x' | 'y' | 'z'): number => (inB[axis][j] as number) - (inA[axis][i] as number);
      out.push([along('x'), along('y'), along('z')]);
    }
    return out;
  }

  /**
   * A leftover part between two paired neighbours is the leftover part between their counterparts, if it is plausible.
   */
  private byNeighbours(): void {
    for (const i of this.left('a')) {
      const before = i > 0 ? (this.toB[i - 1] as number) : -1;
      const after = i + 1 < this.toB.length ? (this.toB[i + 1] as number) : this.toA.length;
      const j = before + 1;
      if (j >= this.toA.length || this.toA[j] !== -1) continue;
      const enclosed = (i === 0 || before >= 0) && after === j + 1;
      if (enclosed && !this.keysDisagree(i, j) && this.samePage(i, j) && this.cost(i, j) < SAME_THING * 1.4)
        this.pair(i, j);
    }
  }

  private byCost(): void {
    const index = this.indexB(this.b.parts.map((p) => p.kind));
    if (!index) return;
    const candidates: Candidate[] = [];
    for (const i of this.left('a')) {
      const { box, kind } = this.partA(i);
      if (!box) continue;
      for (const j of index.nearest(centreX(box), centreY(box), kind)) {
        if (this.keysDisagree(i, j) || !this.samePage(i, j)) continue;
        const cost = this.cost(i, j);
        if (cost < SAME_THING) candidates.push({ a: i, b: j, cost });
      }
    }
    for (const c of assign(candidates)) this.pair(c.a, c.b);
    // Parts without a place: opaque things and endless lines, by what they are called.
    const rest = this.left('b').filter((j) => !this.partB(j).box);
    for (const i of this.left('a')) {
      if (this.partA(i).box || !rest.length) continue;
      const at = rest.findIndex(
        (j) =>
          this.partB(j).kind === this.partA(i).kind &&
          this.partB(j).name === this.partA(i).name &&
          !this.keysDisagree(i, j),
      );
      if (at >= 0) this.pair(i, rest.splice(at, 1)[0] as number);
    }
  }

  /** 0 for the same thing, 1 for things with nothing in common. */
  private cost(i: number, j: number): number {
    const a = this.partA(i);
    const b = this.partB(j);
    if (this.inA.family[i] !== this.inB.family[j]) return 1;
    if (!a.box || !b.box) return a.name === b.name ? 0 : 1;
    const reach = 2 * Math.max(diagonal(a.box), diagonal(b.box)) + this.tolerance;
    const up = riseBetween(a, b);
    const apart = Math.hypot(centreX(a.box) - centreX(b.box), centreY(a.box) - centreY(b.box), up.apart);
    const place = Math.min(1, (apart + Math.hypot(gap(a.box, b.box), up.gap)) / reach);
    const extent = width(a.box) + width(b.box) + height(a.box) + height(b.box) + up.extent + this.tolerance;
    const size =
      (Math.abs(width(a.box) - width(b.box)) + Math.abs(height(a.box) - height(b.box)) + up.difference) / extent;
    const look = this.inA.look[i] === this.inB.look[j] ? 0 : 1;
    const layer = a.category === b.category ? 0 : 1;
    if (a.lettering) return 0.5 * (1 - similarity(wordsOf(a), wordsOf(b))) + 0.35 * place + 0.1 * look + 0.05 * layer;
    const definition = this.definitionCost(a.definition, b.definition);
    return 0.45 * place + 0.35 * size + 0.12 * look + 0.08 * layer + definition + (a.kind === b.kind ? 0 : 0.15);
  }

  /** Placements of the same definition are likely the same thing, of others hardly. */
  private definitionCost(a: number | undefined, b: number | undefined): number {
    if (a === undefined || b === undefined) return 0;
    return this.a.definitions[a]?.key === this.b.definitions[b]?.key ? -0.1 : 0.3;
  }

  /** Spatial index of what is left of B; undefined if nothing is left on one side. */
  private indexB(group: readonly string[]):
    | {
        near: (box: Box, reach: number, anchor: readonly [number, number] | undefined) => number[];
        nearest: (x: number, y: number, group: string) => number[];
      }
    | undefined {
    const crowd = new Map<number, number>();
    const rest = this.left('b').filter((j) => {
      if (!this.partB(j).box) return false;
      const place = this.inB.place[j] as number;
      const n = (crowd.get(place) ?? 0) + 1;
      crowd.set(place, n);
      return n <= CROWD;
    });
    if (!rest.length || !this.toB.includes(-1)) return undefined;
    const tree = new Flatbush(rest.length);
    for (const j of rest) {
      // The anchor of a placement may lie outside of what it draws.
      const [x0, y0, x1, y1] = this.partB(j).box as Box;
      const x = this.inB.x[j] as number;
      const y = this.inB.y[j] as number;
      if (Number.isNaN(x)) tree.add(x0, y0, x1, y1);
      else tree.add(Math.min(x0, x), Math.min(y0, y), Math.max(x1, x), Math.max(y1, y));
    }
    tree.finish();
    const own = (k: number): number => rest[k] as number;
    const around = (x: number, y: number, reach: number): number[] => {
      let found = 0;
      return tree.search(x - reach, y - reach, x + reach, y + reach, (k) => this.toA[own(k)] === -1 && found++ < CROWD);
    };
    return {
      // A box that agrees within `reach` must contain a point near the corner, so search there and not over the whole
      // box.
      near: (box, reach, anchor) => {
        const found = new Set([
          ...around(box[0], box[1], reach),
          ...around(box[0], box[3], reach),
          ...(anchor ? around(anchor[0], anchor[1], reach) : []),
        ]);
        return [...found].map(own);
      },
      nearest: (x, y, name) =>
        tree.neighbors(x, y, NEIGHBOURS, Infinity, (k) => this.toA[own(k)] === -1 && group[own(k)] === name).map(own),
    };
  }
}

/** Kinds that people resize about their middle. */
const round: ReadonlySet<string> = new Set(['circle', 'ellipse', 'arc']);

const sameMiddle = (a: Box, b: Box, reach: number): boolean => {
  const ratio = (width(a) + height(a)) / Math.max(width(b) + height(b), 1e-300);
  return (
    Math.abs(centreX(a) - centreX(b)) <= reach &&
    Math.abs(centreY(a) - centreY(b)) <= reach &&
    ratio > 1 / 3 &&
    ratio < 3
  );
};

const boxesAgree = (a: Box, b: Box | undefined, reach: number): boolean =>
  b !== undefined && a.every((v, k) => Math.abs(v - (b[k] as number)) <= reach);
