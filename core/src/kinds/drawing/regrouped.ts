/**
 * Where nothing visible changed but how things are put together: placements taken apart into their shapes or shapes
 * made into placements, and lines split or joined. Works on what pairing left over.
 */
import { applyX, applyY, multiply, type Matrix } from '../../geometry/matrix.ts';
import { isPlaced, wordsOf } from '../../match/traits.ts';
import type { Design, Part } from '../../model/design.ts';

export interface Regrouped {
  readonly kind: 'exploded' | 'blocked' | 'split' | 'joined';
  /** Name of the block, for placements. */
  readonly name: string;
  readonly partsA: readonly number[];
  readonly partsB: readonly number[];
}

/** Share of a placement's lines that must be found as loose shapes. */
const MOST = 0.8;
const DEEPEST = 8;
/** Lines of one placement that are looked at. */
const LONGEST = 20_000;

/** `restA` and `restB` are parts without a counterpart; `reshaped` are pairs whose outlines differ. */
export function regrouped(
  a: Design,
  b: Design,
  restA: readonly number[],
  restB: readonly number[],
  reshaped: readonly (readonly [number, number])[],
  tolerance: number,
): Regrouped[] {
  const step = tolerance * 16;
  const exploded = opened(a, restA, b, restB, step).map(({ placement, loose, name }): Regrouped => ({
    kind: 'exploded',
    name,
    partsA: [placement],
    partsB: loose,
  }));
  const blocked = opened(b, restB, a, restA, step).map(({ placement, loose, name }): Regrouped => ({
    kind: 'blocked',
    name,
    partsA: loose,
    partsB: [placement],
  }));
  const usedA = new Set([...exploded, ...blocked].flatMap((g) => g.partsA));
  const usedB = new Set([...exploded, ...blocked].flatMap((g) => g.partsB));
  const lines = rejoined(
    a,
    [...restA, ...reshaped.map(([i]) => i)].filter((i) => !usedA.has(i)),
    b,
    [...restB, ...reshaped.map(([, j]) => j)].filter((j) => !usedB.has(j)),
    tolerance,
  );
  return [...exploded, ...blocked, ...lines];
}

function opened(
  from: Design,
  restFrom: readonly number[],
  to: Design,
  restTo: readonly number[],
  step: number,
): { placement: number; loose: number[]; name: string }[] {
  const placements = restFrom.filter((i) => from.parts[i]?.kind === 'placement' || from.parts[i]?.kind === 'dimension');
  const loose = restTo.filter((j) => to.parts[j]?.kind !== 'placement');
  if (!placements.length || !loose.length) return [];
  const byPrint = new Map<string, number[]>();
  const size = new Map<number, number>();
  for (const j of loose) {
    const prints = printsOf(to, to.parts[j] as Part, step);
    size.set(j, prints.length);
    for (const p of prints) {
      const list = byPrint.get(p);
      if (list) list.push(j);
      else byPrint.set(p, [j]);
    }
  }
  const taken = new Set<number>();
  const out: { placement: number; loose: number[]; name: string }[] = [];
  for (const i of placements) {
    const prints = printsOf(from, from.parts[i] as Part, step);
    const hits = new Map<number, number>();
    if (!prints.length) continue;
    for (const p of new Set(prints))
      for (const j of byPrint.get(p) ?? []) if (!taken.has(j)) hits.set(j, (hits.get(j) ?? 0) + 1);
    // A shape belongs to it only if all of its lines do.
    const members = [...hits].filter(([j, n]) => n >= (size.get(j) ?? Infinity) * 0.99).map(([j]) => j);
    const covered = members.reduce((sum, j) => sum + (size.get(j) ?? 0), 0);
    if (covered < MOST * prints.length) continue;
    for (const j of members) taken.add(j);
    out.push({ placement: i, loose: members, name: from.parts[i]?.name ?? '' });
  }
  return out;
}

/** One print a line or text that a part draws, by place; nested placements opened. */
function printsOf(design: Design, part: Part, step: number): string[] {
  const out: string[] = [];
  collect(design, part, undefined, step, out, 0);
  return out;
}

function collect(
  design: Design,
  part: Part,
  matrix: Matrix | undefined,
  step: number,
  out: string[],
  depth: number,
): void {
  const { points, starts, closed } = design.geometry;
  const at = (p: number): string => {
    const x = points[2 * p] as number;
    const y = points[2 * p + 1] as number;
    return `${Math.round((matrix ? applyX(matrix, x, y) : x) / step)},${Math.round((matrix ? applyY(matrix, x, y) : y) / step)}`;
  };
  const line = (p: string, q: string): void => {
    if (out.length < LONGEST && p !== q) out.push(p < q ? `${p} ${q}` : `${q} ${p}`);
  };
  for (let s = part.firstSubpath; s < part.firstSubpath + part.subpaths; s++) {
    const begin = starts[s] as number;
    const end = starts[s + 1] as number;
    for (let p = begin; p + 1 < end; p++) line(at(p), at(p + 1));
    if (closed[s] && end - begin > 2) line(at(end - 1), at(begin));
  }
  const transform = matrix ? multiply(matrix, part.transform) : part.transform;
  const run = part.lettering?.runs[0];
  if (run && part.props['hidden'] !== 'yes')
    out.push(
      `“${wordsOf(part)}” ${Math.round(applyX(transform, run.x, run.y) / step)},${Math.round(applyY(transform, run.x, run.y) / step)}`,
    );
  if (!isPlaced(part) || depth >= DEEPEST || part.definition === undefined) return;
  for (const child of design.definitions[part.definition]?.content ?? [])
    collect(design, child, transform, step, out, depth + 1);
}

interface Piece {
  readonly side: 0 | 1;
  readonly part: number;
  /** Interval along its line. */
  readonly from: number;
  readonly to: number;
}

/** Straight lines, and arcs of circles, that cover the same ground cut at other places. */
function rejoined(
  a: Design,
  restA: readonly number[],
  b: Design,
  restB: readonly number[],
  tolerance: number,
): Regrouped[] {
  const carriers = new Map<string, Piece[]>();
  let onA = 0;
  let onB = 0;
  for (const i of restA) onA += lay(a, i, 0, tolerance, carriers);
  for (const j of restB) onB += lay(b, j, 1, tolerance, carriers);
  if (!onA || !onB) return [];
  const root = new Map<string, string>();
  const find = (x: string): string => {
    let top = x;
    for (let up = root.get(top); up !== undefined && up !== top; up = root.get(top)) top = up;
    return top;
  };
  const unite = (x: string, y: string): void => {
    root.set(find(x), find(y));
  };
  const name = (p: Piece): string => `${p.side}:${p.part}`;
  const uneven = new Set<string>();
  const reach = 4 * tolerance;
  for (const list of carriers.values()) {
    const sorted = [...list].sort((p, q) => p.from - q.from);
    // Runs of pieces that touch one another along their line.
    for (let k = 0; k < sorted.length;) {
      let end = k + 1;
      let far = (sorted[k] as Piece).to;
      while (end < sorted.length && (sorted[end] as Piece).from <= far + reach)
        far = Math.max(far, (sorted[end++] as Piece).to);
      const run = sorted.slice(k, end);
      const first = run[0] as Piece;
      for (const p of run) unite(name(p), name(first));
      if (!sameCover(run, reach)) uneven.add(name(first));
      k = end;
    }
  }
  const bad = new Set([...uneven].map(find));
  const groups = new Map<string, { a: Set<number>; b: Set<number> }>();
  for (const list of carriers.values()) {
    for (const p of list) {
      const top = find(name(p));
      if (bad.has(top)) continue;
      const group = groups.get(top) ?? { a: new Set<number>(), b: new Set<number>() };
      groups.set(top, group);
      (p.side ? group.b : group.a).add(p.part);
    }
  }
  return [...groups.values()]
    .filter((g) => g.a.size && g.b.size && g.a.size !== g.b.size)
    .map((g) => ({
      kind: g.b.size > g.a.size ? ('split' as const) : ('joined' as const),
      name: '',
      partsA: [...g.a],
      partsB: [...g.b],
    }));
}

/** Lays a part along what carries it; 0 where nothing can. */
function lay(design: Design, index: number, side: 0 | 1, tolerance: number, into: Map<string, Piece[]>): 0 | 1 {
  const part = design.parts[index];
  if (part?.subpaths === 1 && round.has(part.kind)) return layArc(design, part, index, side, tolerance, into);
  if (!isStraight(design, part)) return 0;
  pieces(design, index, side, tolerance, into);
  return 1;
}

const round: ReadonlySet<string> = new Set(['arc', 'circle']);

/** An arc along its circle: the interval is in lengths along it, from the positive x axis on. */
function layArc(
  design: Design,
  part: Part,
  index: number,
  side: 0 | 1,
  tolerance: number,
  into: Map<string, Piece[]>,
): 0 | 1 {
  const { points, starts, closed } = design.geometry;
  const first = starts[part.firstSubpath] as number;
  const end = starts[part.firstSubpath + 1] as number;
  const count = end - first;
  const whole = closed[part.firstSubpath] === 1;
  const at = (p: number): readonly [number, number] => [
    points[2 * (first + p)] as number,
    points[2 * (first + p) + 1] as number,
  ];
  const centre = count > 2 ? centreOf(at(0), at(Math.floor(count / 3)), at(Math.floor((2 * count) / 3))) : undefined;
  if (!centre) return 0;
  const [cx, cy] = centre;
  const [x0, y0] = at(0);
  const radius = Math.hypot(x0 - cx, y0 - cy);
  const turn = 2 * Math.PI;
  for (let p = 0; p < count; p++)
    if (Math.abs(Math.hypot(at(p)[0] - cx, at(p)[1] - cy) - radius) > 4 * tolerance) return 0;
  const grain = 64 * tolerance;
  const key = `arc ${Math.round(cx / grain)} ${Math.round(cy / grain)} ${Math.round(radius / grain)}`;
  const angle = (p: number): number => (Math.atan2(at(p)[1] - cy, at(p)[0] - cx) + turn) % turn;
  const put = (from: number, to: number): void => {
    const list = into.get(key);
    const piece: Piece = { side, part: index, from: from * radius, to: to * radius };
    if (list) list.push(piece);
    else into.set(key, [piece]);
  };
  if (whole) {
    put(0, turn);
    return 1;
  }
  // Which way round it goes shows at its second point.
  const step = (angle(1) - angle(0) + turn) % turn;
  const from = step < Math.PI ? angle(0) : angle(count - 1);
  const to = step < Math.PI ? angle(count - 1) : angle(0);
  if (to > from) put(from, to);
  else {
    put(from, turn);
    put(0, to);
  }
  return 1;
}

/** Centre of the circle through three points; undefined where they stand in a line. */
function centreOf(
  [ax, ay]: readonly [number, number],
  [bx, by]: readonly [number, number],
  [cx, cy]: readonly [number, number],
): readonly [number, number] | undefined {
  const d = 2 * ((bx - ax) * (cy - ay) - (by - ay) * (cx - ax));
  const b = (bx - ax) ** 2 + (by - ay) ** 2;
  const c = (cx - ax) ** 2 + (cy - ay) ** 2;
  return d === 0 ? undefined : [ax + ((cy - ay) * b - (by - ay) * c) / d, ay + ((bx - ax) * c - (cx - ax) * b) / d];
}

function isStraight(design: Design, part: Part | undefined): boolean {
  if (!part?.subpaths || !['line', 'polyline', 'path', 'polygon', 'rectangle'].includes(part.kind)) return false;
  const { starts } = design.geometry;
  return (starts[part.firstSubpath + part.subpaths] as number) - (starts[part.firstSubpath] as number) <= 64;
}

function pieces(design: Design, index: number, side: 0 | 1, tolerance: number, into: Map<string, Piece[]>): void {
  const part = design.parts[index] as Part;
  const { points, starts, closed } = design.geometry;
  for (let s = part.firstSubpath; s < part.firstSubpath + part.subpaths; s++) {
    const begin = starts[s] as number;
    const end = starts[s + 1] as number;
    for (let p = begin; p < end; p++) {
      const q = p + 1 < end ? p + 1 : begin;
      if (q === begin && (!closed[s] || end - begin < 3)) continue;
      const x0 = points[2 * p] as number;
      const y0 = points[2 * p + 1] as number;
      const x1 = points[2 * q] as number;
      const y1 = points[2 * q + 1] as number;
      const length = Math.hypot(x1 - x0, y1 - y0);
      if (length <= tolerance) continue;
      // One direction for both ways along the line.
      const turned = x1 < x0 - 1e-12 || (Math.abs(x1 - x0) <= 1e-12 && y1 < y0);
      const ux = ((x1 - x0) / length) * (turned ? -1 : 1);
      const uy = ((y1 - y0) / length) * (turned ? -1 : 1);
      const offset = ux * y0 - uy * x0;
      const t0 = ux * x0 + uy * y0;
      const t1 = ux * x1 + uy * y1;
      const key = `${Math.round(Math.atan2(uy, ux) * 2e4)} ${Math.round(offset / (64 * tolerance))}`;
      const piece: Piece = { side, part: index, from: Math.min(t0, t1), to: Math.max(t0, t1) };
      const list = into.get(key);
      if (list) list.push(piece);
      else into.set(key, [piece]);
    }
  }
}

/** True where both sides cover the same stretch without gaps. */
function sameCover(run: readonly Piece[], reach: number): boolean {
  const cover = (side: 0 | 1): [number, number, number] => {
    let from = Infinity;
    let to = -Infinity;
    let covered = 0;
    for (const p of run) {
      if (p.side !== side) continue;
      from = Math.min(from, p.from);
      covered += Math.max(0, p.to - Math.max(p.from, to));
      to = Math.max(to, p.to);
    }
    return [from, to, covered];
  };
  const x = cover(0);
  const y = cover(1);
  return (
    Math.abs(x[0] - y[0]) <= reach && Math.abs(x[1] - y[1]) <= reach && Math.abs(x[2] - y[2]) <= reach * run.length
  );
}
