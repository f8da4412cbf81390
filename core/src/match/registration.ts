/**
 * Whether a whole drawing was moved, turned or scaled: the similarity that brings most parts of A to where B has them.
 * Candidates come from units, extents and votes of parts that are rare; each is judged by how many parts it explains.
 */
import { boxAround, type Box } from '../geometry/box.ts';
import { multiply, type Matrix } from '../geometry/matrix.ts';
import type { Design, Part } from '../model/design.ts';
import { flatAnchorOf, extentOf, familyOf, hashWords, isPlaced, wordsOf } from './traits.ts';

export interface Registration {
  /** From A's pages to B's. */
  readonly matrix: Matrix;
  readonly scale: number;
  /** Degrees. */
  readonly turn: number;
  /** Share of A's parts that it explains, 0 to 1. */
  readonly share: number;
}

const SAMPLE = 3000;
/**
 * Share of parts still in place that shows that the drawing as a whole was not moved; smaller for a mere shift, which
 * is found without this.
 */
const ENOUGH = 0.12;
const ENOUGH_FOR_SHIFT = 0.02;
/** A motion must explain at least this share, and this much more than the identity does. */
const LEAST = 0.4;
const BETTER = 0.25;
const MOST_VOTES = 20_000;

/** undefined where the two are on top of one another, or no motion explains much more. */
export function register(a: Design, b: Design, tolerance: number): Registration | undefined {
  if (a.parts.length < 3 || b.parts.length < 3) return undefined;
  const judge = new Judge(a, b, tolerance);
  const still = judge.share(1, 0, 0, 0);
  if (still >= ENOUGH) return undefined;
  let best: { share: number; re: number; im: number; x: number; y: number } | undefined;
  for (const [re, im, x, y] of candidates(a, b, tolerance)) {
    const share = judge.share(re, im, x, y);
    if (!best || share > best.share) best = { share, re, im, x, y };
    if (share > 0.95) break;
  }
  if (!best || best.share < LEAST || best.share < still + BETTER) return undefined;
  const scale = Math.hypot(best.re, best.im);
  if (still > ENOUGH_FOR_SHIFT && Math.abs(scale - 1) < 1e-9 && Math.abs(best.im) < 1e-9) return undefined;
  return {
    matrix: [best.re, best.im, -best.im, best.re, best.x, best.y],
    scale,
    turn: (Math.atan2(best.im, best.re) * 180) / Math.PI,
    share: best.share,
  };
}

/** z′ = (re + i·im) z + (x + i·y). */
type Candidate = readonly [re: number, im: number, x: number, y: number];

function candidates(a: Design, b: Design, tolerance: number): Candidate[] {
  const out: Candidate[] = [];
  const ratios = new Set<number>([1]);
  const [pageA, pageB] = [a.pages[0], b.pages[0]];
  const unitA = pageA?.unitMillimetres;
  const unitB = pageB?.unitMillimetres;
  if (unitA && unitB && unitA !== unitB) ratios.add(unitA / unitB);
  const boxA = extentOf({ ...a, pages: [] });
  const boxB = extentOf({ ...b, pages: [] });
  if (boxA && boxB && boxA[2] > boxA[0]) {
    const ratio = (boxB[2] - boxB[0]) / (boxA[2] - boxA[0]);
    if (ratio > 0 && Number.isFinite(ratio)) ratios.add(ratio);
  }
  for (const ratio of ratios) {
    out.push([ratio, 0, 0, 0], ...shifts(a, b, ratio, tolerance));
    if (boxA && boxB) out.push([ratio, 0, boxB[0] - boxA[0] * ratio, boxB[1] - boxA[1] * ratio]);
  }
  return [...out, ...similarities(a, b)];
}

/** Shifts that bring equal things of a kind, scaled by `ratio`, onto one another; most frequent first. */
function shifts(a: Design, b: Design, ratio: number, tolerance: number): Candidate[] {
  const inB = new Map<number, Part[]>();
  for (const p of b.parts) push(inB, sizeKey(p, 1, tolerance), p);
  const inA = new Map<number, Part[]>();
  for (const p of a.parts) push(inA, sizeKey(p, ratio, tolerance), p);
  const votes = new Map<string, { x: number; y: number; weight: number }>();
  let cast = 0;
  for (const [key, partsA] of inA) {
    const partsB = inB.get(key);
    if (!partsB || partsA.length * partsB.length > 64 || cast > MOST_VOTES) continue;
    for (const p of partsA) {
      for (const q of partsB) {
        const from = flatAnchorOf(p);
        const to = flatAnchorOf(q);
        if (!from || !to) continue;
        cast++;
        const x = to[0] - from[0] * ratio;
        const y = to[1] - from[1] * ratio;
        const cell = `${Math.round(x / (8 * tolerance))},${Math.round(y / (8 * tolerance))}`;
        const vote = votes.get(cell);
        if (vote) vote.weight += 1 / partsA.length;
        else votes.set(cell, { x, y, weight: 1 / partsA.length });
      }
    }
  }
  return [...votes.values()]
    .sort((p, q) => q.weight - p.weight)
    .slice(0, 4)
    .map(({ x, y }): Candidate => [ratio, 0, x, y]);
}

const push = <K, V>(map: Map<K, V[]>, key: K, value: V): void => {
  const list = map.get(key);
  if (list) list.push(value);
  else map.set(key, [value]);
};

/** Equal for parts of one family with the same words, definition and size. */
function sizeKey(p: Part, ratio: number, tolerance: number): number {
  const size =
    p.box && !p.lettering && !isPlaced(p)
      ? `${Math.round(((p.box[2] - p.box[0]) * ratio) / (8 * tolerance))} ${Math.round(((p.box[3] - p.box[1]) * ratio) / (8 * tolerance))} ${p.subpaths}`
      : '';
  return hashWords(`${familyOf(p)} ${wordsOf(p)} ${isPlaced(p) ? p.name : ''} ${size}`);
}

/** Similarities from pairs of things that each design has once: texts and placements. */
function similarities(a: Design, b: Design): Candidate[] {
  const once = (d: Design): Map<string, readonly [number, number]> => {
    const out = new Map<string, readonly [number, number] | undefined>();
    for (const p of d.parts) {
      const key = p.lettering ? `text ${wordsOf(p)}` : undefined;
      if (key) out.set(key, out.has(key) ? undefined : flatAnchorOf(p));
    }
    return new Map([...out].filter((e): e is [string, readonly [number, number]] => e[1] !== undefined));
  };
  const inA = once(a);
  const inB = once(b);
  const common = [...inA.keys()].filter((k) => inB.has(k));
  const out: Candidate[] = [];
  for (let k = 0; k + 1 < common.length && out.length < 24; k++) {
    // Far apart in the list, so that the two are seldom neighbours.
    const first = common[k] as string;
    const second = common[(k + (common.length >> 1)) % common.length] as string;
    const [p, q, u, v] = [inA.get(first), inA.get(second), inB.get(first), inB.get(second)];
    if (!p || !q || !u || !v || first === second) continue;
    const dx = q[0] - p[0];
    const dy = q[1] - p[1];
    const ex = v[0] - u[0];
    const ey = v[1] - u[1];
    const norm = dx * dx + dy * dy;
    if (norm === 0) continue;
    const re = snap((ex * dx + ey * dy) / norm);
    const im = snap((ey * dx - ex * dy) / norm);
    if (re === 0 && im === 0) continue;
    out.push([re, im, u[0] - re * p[0] + im * p[1], u[1] - im * p[0] - re * p[1]]);
  }
  return out;
}

/** Noise of a division must not turn a drawing by a millionth of a degree. */
const snap = (n: number): number => (Math.abs(n - Math.round(n)) < 1e-7 ? Math.round(n) : n);

class Judge {
  private readonly cells = new Set<number>();
  private readonly sample: { key: number; box: Box | undefined; x: number; y: number }[] = [];
  private readonly step: number;

  constructor(a: Design, b: Design, tolerance: number) {
    this.step = tolerance * 12;
    for (const p of b.parts) {
      const at = spotOf(p);
      if (at) this.cells.add(this.cell(kindOf(p), at[0], at[1]));
    }
    const every = Math.max(1, Math.floor(a.parts.length / SAMPLE));
    for (let i = 0; i < a.parts.length; i += every) {
      const p = a.parts[i] as Part;
      const at = spotOf(p);
      if (at) this.sample.push({ key: kindOf(p), box: p.box, x: at[0], y: at[1] });
    }
  }

  share(re: number, im: number, x: number, y: number): number {
    if (!this.sample.length) return 0;
    let found = 0;
    for (const s of this.sample) {
      const px = re * s.x - im * s.y + x;
      const py = im * s.x + re * s.y + y;
      let hit = false;
      for (const dx of [0, -0.5, 0.5])
        for (const dy of [0, -0.5, 0.5])
          hit ||= this.cells.has(this.cell(s.key, px + dx * this.step, py + dy * this.step));
      if (hit) found++;
    }
    return found / this.sample.length;
  }

  private cell(kind: number, x: number, y: number): number {
    return hashPoint(kind, Math.round(x / this.step), Math.round(y / this.step));
  }
}

const hashPoint = (kind: number, x: number, y: number): number => {
  let h = Math.imul(x | 0, 0x9e3779b1) ^ Math.imul(y | 0, 0x85ebca77) ^ (kind | 0);
  h = Math.imul(h ^ (h >>> 15), 0x2c1b3c6d);
  return ((h ^ (h >>> 12)) >>> 0) * 2097152 + ((Math.imul(x | 0, 31) ^ (y | 0) ^ (kind | 0)) & 0x1fffff);
};

const kindOf = (p: Part): number => hashWords(`${familyOf(p)} ${wordsOf(p)}`);

/** A point of the part that every similarity takes along: the anchor of words and placements, the middle of a box. */
const spotOf = (p: Part): readonly [number, number] | undefined => {
  if (p.lettering || isPlaced(p)) return flatAnchorOf(p);
  return p.box && [(p.box[0] + p.box[2]) / 2, (p.box[1] + p.box[3]) / 2];
};

/** Properties that are lengths in design units. */
const lengths: ReadonlySet<string> = new Set(['height', 'text width', 'width', 'stroke-width', 'font-size']);

/** A design with every page moved by `m`: as B sees A. */
export function movedDesign(a: Design, m: Matrix): Design {
  const { points } = a.geometry;
  const moved = new Float64Array(points.length);
  const inDefinitions = contentSubpaths(a);
  const { starts } = a.geometry;
  let s = 0;
  for (let p = 0; p < points.length / 2; p++) {
    while (s + 1 < starts.length && p >= (starts[s + 1] as number)) s++;
    const x = points[2 * p] as number;
    const y = points[2 * p + 1] as number;
    // Content of definitions stands in coordinates of its own.
    moved[2 * p] = inDefinitions[s] ? x : m[0] * x + m[2] * y + m[4];
    moved[2 * p + 1] = inDefinitions[s] ? y : m[1] * x + m[3] * y + m[5];
  }
  const geometry = { ...a.geometry, points: moved };
  const scale = Math.hypot(m[0], m[1]);
  const known = new Map<Part['props'], Part['props']>();
  const resized = (props: Part['props']): Part['props'] => {
    if (Math.abs(scale - 1) < 1e-9) return props;
    const out =
      known.get(props) ??
      Object.fromEntries(
        Object.entries(props).map(([name, value]) => [
          name,
          typeof value === 'number' && lengths.has(name) ? Number((value * scale).toPrecision(6)) : value,
        ]),
      );
    known.set(props, out);
    return out;
  };
  return {
    ...a,
    geometry,
    parts: a.parts.map((p) => ({
      ...p,
      props: resized(p.props),
      transform: multiply(m, p.transform),
      box: p.subpaths ? boxIn(moved, starts, p) : p.box && boxAround(p.box, m),
    })),
  };
}

function contentSubpaths(d: Design): Uint8Array {
  const out = new Uint8Array(d.geometry.starts.length);
  for (const { content, inside } of d.definitions)
    for (const p of content ?? inside ?? []) out.fill(1, p.firstSubpath, p.firstSubpath + p.subpaths);
  return out;
}

function boxIn(points: Float64Array, starts: Uint32Array, p: Part): Box {
  let minX = Infinity;
  let minY = Infinity;
  let maxX = -Infinity;
  let maxY = -Infinity;
  for (let k = starts[p.firstSubpath] as number; k < (starts[p.firstSubpath + p.subpaths] as number); k++) {
    const x = points[2 * k] as number;
    const y = points[2 * k + 1] as number;
    minX = Math.min(minX, x);
    maxX = Math.max(maxX, x);
    minY = Math.min(minY, y);
    maxY = Math.max(maxY, y);
  }
  return [minX, minY, maxX, maxY];
}
