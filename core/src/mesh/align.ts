/**
 * Lays one surface over another: starts from the axes of both and from turns about the axes of the model, then goes
 * from nearest points to nearest points, plane by plane (Chen and Medioni 1991), without the places that lie further off
 * than a distance that shrinks.
 */
import { EigenvalueDecomposition, Matrix, solve } from 'ml-matrix';
import { boxOfPoints, diagonal3, type Mesh, type Point3 } from './mesh.ts';
import { measuresOf } from './measure.ts';
import { nearestOn, type Nearest } from './nearest.ts';
import { asItStands, placedWithin, placePoint, type Placing } from './placing.ts';
import { cross, minus } from './vector.ts';

export interface Laid {
  readonly placing: Placing;
  /** Share of A's surface that lies within `reach` of B's then. */
  readonly share: number;
  /** Ways in which it lies as well, this one with them. */
  readonly ways: number;
}

/** Places that are looked at while it is laid, and while starts are judged. */
const PLACES = 900;
const FEW = 140;
/** Starts that are gone on from. */
const STARTS = 16;
/** Of these, those that lie best after a few steps over few places. */
const GOING_ON = 3;
const FIRST_STEPS = 6;
const FIRST_EVERY = 6;
const EVERY = 2;
const STEPS = 60;
/** Places that have to be near for a step. */
const LEAST = 12;
/** Places further off than this share of the size are not gone by; it shrinks with each step. */
const FAR = 0.05;
const SHRINKS = 0.6;
/** Starts that lie as near as this lead to the same end; ends that lie so are one. */
const NEARLY = 0.05;
const THE_SAME = 1e-3;
const NEARLY_LEAST = 1.3;
/** Shares that differ by no more are equal. */
const EQUAL = 0.004;

/**
 * `reach` is the distance within which places count as the same. `near`: it lies nearly where it lay, so that nothing
 * is turned for a start.
 */
export function laidOver(a: Mesh, b: Mesh, reach: number, near = false): Laid | undefined {
  const [boxA, boxB] = [boxOfPoints(a.points), boxOfPoints(b.points)];
  if (!boxA || !boxB) return undefined;
  const laying = new Laying(a, b, reach, diagonal3(boxB));
  const all = startsFor(a, b, near)
    .map((placing) => ({ placing, badness: laying.badness(placing) }))
    .sort((p, q) => p.badness - q.badness);
  const starts = distinct(all, diagonal3(boxB), NEARLY).slice(0, STARTS);
  const going = starts
    .map(({ placing }) => laying.refined(placing, FIRST_STEPS, FIRST_EVERY))
    .map((placing) => ({ placing, badness: laying.badness(placing, EVERY) }));
  const least = Math.min(...going.map(({ badness }) => badness)) * NEARLY_LEAST + reach;
  const found = going
    // Of those that lie equally well, the least that could have been done comes first.
    .sort((p, q) =>
      p.badness <= least && q.badness <= least ? effort(p.placing) - effort(q.placing) : p.badness - q.badness,
    )
    .slice(0, GOING_ON)
    .map(({ placing }) => laying.refined(placing, STEPS, EVERY))
    .map((placing) => snapped(placing, reach))
    .map((placing) => ({ placing, share: laying.share(placing) }))
    .sort((p, q) => q.share - p.share);
  const most = found[0]?.share ?? 0;
  const equal = distinct(
    found.filter(({ share }) => share >= most - EQUAL),
    diagonal3(boxB),
    THE_SAME,
  );
  // The least that could have been done is told: not turned before turned, not mirrored before mirrored.
  const [best] = equal.sort((p, q) => effort(p.placing) - effort(q.placing));
  return best && { ...best, ways: equal.length };
}

/** Share of A's surface that lies within `reach` of B's as they stand. */
export function shareWithin(a: Mesh, b: Mesh, reach: number): number {
  const box = boxOfPoints(b.points);
  return box ? new Laying(a, b, reach, diagonal3(box)).share(asItStands) : 0;
}

/** Numbers that are round but for what the search leaves are taken for round. */
function snapped(placing: Placing, reach: number): Placing {
  const grid = 10 ** Math.ceil(Math.log10(reach));
  return placing.map((value, k) => {
    const nearest = k < 12 ? Math.round(value) : Math.round(value / grid) * grid;
    const isRound = Math.abs(value - nearest) <= (k < 12 ? 1e-5 : reach / 4);
    return isRound ? Number(nearest.toPrecision(12)) : value;
  });
}

const effort = (m: Placing): number => {
  const trace = (m[0] as number) + (m[5] as number) + (m[10] as number);
  const shift = Math.hypot(m[12] as number, m[13] as number, m[14] as number);
  return 100 * (3 - trace) + shift * 1e-6;
};

/** Without those that differ from an earlier one by less than `grain`, of a turn or of the size. */
function distinct<T extends { readonly placing: Placing }>(found: readonly T[], size: number, grain: number): T[] {
  const out: T[] = [];
  for (const one of found) {
    const isKnown = out.some(({ placing }) =>
      placing.every((value, k) => Math.abs(value - (one.placing[k] as number)) <= (k < 12 ? grain : grain * size)),
    );
    if (!isKnown) out.push(one);
  }
  return out;
}

class Laying {
  private readonly nearest: Nearest;
  private readonly places: readonly Point3[];
  private readonly reach: number;
  private readonly size: number;

  constructor(a: Mesh, b: Mesh, reach: number, size: number) {
    this.nearest = nearestOn(b);
    this.places = placesOn(a, PLACES);
    this.reach = reach;
    this.size = size;
  }

  /** How far places lie off, one of so many, those that lie very far no more than so. */
  badness(placing: Placing, every = Math.floor(PLACES / FEW)): number {
    const cap = 0.1 * this.size;
    let sum = 0;
    for (let k = 0; k < this.places.length; k += every) {
      const [x, y, z] = placePoint(placing, this.places[k] as Point3);
      sum += Math.min(cap, Math.abs(this.nearest.signed(x, y, z, cap) ?? cap));
    }
    return sum;
  }

  /** Goes by one of so many places. */
  refined(start: Placing, steps: number, every: number): Placing {
    let placing = start;
    for (let step = 0; step < steps; step++) {
      const far = Math.max(this.size * FAR * SHRINKS ** step, 32 * this.reach);
      const move = this.step(placing, every, far);
      if (!move) break;
      placing = placedWithin(move.placing, placing);
      if (move.size < 1e-9 && far <= 32 * this.reach) break;
    }
    return placing;
  }

  share(placing: Placing): number {
    let within = 0;
    for (const place of this.places) {
      const [x, y, z] = placePoint(placing, place);
      const distance = this.nearest.signed(x, y, z, 2 * this.reach);
      if (distance !== undefined && Math.abs(distance) <= this.reach) within++;
    }
    return within / this.places.length;
  }

  /** The small motion that brings the nearest places onto the planes of what they are nearest to. */
  private step(
    placing: Placing,
    every: number,
    far: number,
  ): { readonly placing: Placing; readonly size: number } | undefined {
    const kept = this.places
      .filter((_, k) => k % every === 0)
      .flatMap((place) => {
        const from = placePoint(placing, place);
        const touch = this.nearest.point(...from);
        return touch && touch.distance <= far ? [{ from, ...touch }] : [];
      });
    if (kept.length < LEAST) return undefined;
    const middle = middleOf(kept.map(({ from }) => from));
    const [left, right] = [Matrix.zeros(6, 6), Matrix.zeros(6, 1)];
    for (const { from, point, normal } of kept) {
      const arm: Point3 = [from[0] - middle[0], from[1] - middle[1], from[2] - middle[2]];
      const row = [...cross(arm, normal).map((v) => v / this.size), ...normal];
      const off =
        (point[0] - from[0]) * normal[0] + (point[1] - from[1]) * normal[1] + (point[2] - from[2]) * normal[2];
      for (let i = 0; i < 6; i++) {
        right.set(i, 0, right.get(i, 0) + (row[i] as number) * off);
        for (let j = 0; j < 6; j++) left.set(i, j, left.get(i, j) + (row[i] as number) * (row[j] as number));
      }
    }
    // What slides freely, as a plane on a plane, stays where it is.
    for (let i = 0; i < 6; i++) left.set(i, i, left.get(i, i) + 1e-9 * kept.length);
    const [rx = 0, ry = 0, rz = 0, tx = 0, ty = 0, tz = 0] = solve(left, right).getColumn(0);
    if (![rx, ry, rz, tx, ty, tz].every(Number.isFinite)) return undefined;
    const turn = rotationBy([rx / this.size, ry / this.size, rz / this.size]);
    const landed = placePoint(turn, middle);
    const shift: Point3 = [middle[0] - landed[0] + tx, middle[1] - landed[1] + ty, middle[2] - landed[2] + tz];
    return {
      placing: [...turn.slice(0, 12), ...shift, 1],
      size: (Math.hypot(rx, ry, rz) + Math.hypot(tx, ty, tz)) / this.size,
    };
  }
}

/** Places spread over a surface by its area, always the same ones. */
function placesOn({ points, triangles }: Mesh, count: number): Point3[] {
  const corner = (t: number, k: number): Point3 => {
    const at = 3 * (triangles[3 * t + k] as number);
    return [points[at] as number, points[at + 1] as number, points[at + 2] as number];
  };
  const areas = new Float64Array(triangles.length / 3);
  let sum = 0;
  for (let t = 0; t < areas.length; t++) {
    const [p, q, r] = [corner(t, 0), corner(t, 1), corner(t, 2)];
    sum += Math.hypot(...cross(minus(q, p), minus(r, p)));
    areas[t] = sum;
  }
  const places: Point3[] = [];
  let t = 0;
  for (let k = 0; k < count; k++) {
    const at = ((k + 0.5) / count) * sum;
    while (t < areas.length - 1 && (areas[t] as number) < at) t++;
    let [u, v] = [(k * 0.7548776662466927) % 1, (k * 0.5698402909980532) % 1];
    if (u + v > 1) [u, v] = [1 - u, 1 - v];
    const [p, q, r] = [corner(t, 0), corner(t, 1), corner(t, 2)];
    const along = (axis: 0 | 1 | 2): number => p[axis] + u * (q[axis] - p[axis]) + v * (r[axis] - p[axis]);
    places.push([along(0), along(1), along(2)]);
  }
  return places;
}

function startsFor(a: Mesh, b: Mesh, near: boolean): Placing[] {
  const [placesA, placesB] = [placesOn(a, PLACES), placesOn(b, PLACES)];
  const [middleA, middleB] = [middleOf(placesA), middleOf(placesB)];
  const [boxA, boxB] = [boxOfPoints(a.points), boxOfPoints(b.points)];
  const about = (turn: Placing): Placing => {
    const [x, y, z] = placePoint(turn, middleA);
    return [...turn.slice(0, 12), middleB[0] - x, middleB[1] - y, middleB[2] - z, 1];
  };
  const byBox: Placing[] =
    boxA && boxB ? [[...asItStands.slice(0, 12), boxB[0] - boxA[0], boxB[1] - boxA[1], boxB[2] - boxA[2], 1]] : [];
  if (near) return [asItStands, ...byBox];
  const [axesA, axesB] = [axesOf(placesA, middleA), axesOf(placesB, middleB)];
  const own = SIGNS.map((signs) => turnFrom(axesA, axesB, signs));
  return [asItStands, ...byBox, ...quarterTurns().map(about), ...own.map(about)];
}

const SIGNS = [1, -1].flatMap((x) => [1, -1].flatMap((y) => [1, -1].map((z) => [x, y, z] as const)));

/** The turn that brings one frame of axes to another, with some of them turned round. */
function turnFrom(from: readonly Point3[], to: readonly Point3[], signs: readonly number[]): Placing {
  const cell = (row: 0 | 1 | 2, column: 0 | 1 | 2): number =>
    [0, 1, 2].reduce((sum, k) => sum + (signs[k] as number) * (to[k] as Point3)[row] * (from[k] as Point3)[column], 0);
  const column = (k: 0 | 1 | 2): number[] => [cell(0, k), cell(1, k), cell(2, k), 0];
  return [...column(0), ...column(1), ...column(2), 0, 0, 0, 1];
}

/** All ways to lay the axes on one another, mirrored ones with them: 48. */
function quarterTurns(): Placing[] {
  const units: readonly Point3[] = [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ];
  const orders = [
    [0, 1, 2],
    [0, 2, 1],
    [1, 0, 2],
    [1, 2, 0],
    [2, 0, 1],
    [2, 1, 0],
  ];
  return orders.flatMap((order) => {
    const to = order.map((k) => units[k] as Point3);
    return SIGNS.map((signs) => turnFrom(units, to, signs));
  });
}

function axesOf(places: readonly Point3[], middle: Point3): Point3[] {
  const spread = Matrix.zeros(3, 3);
  for (const place of places) {
    const arm = minus(place, middle);
    for (const i of [0, 1, 2] as const)
      for (const j of [0, 1, 2] as const) spread.set(i, j, spread.get(i, j) + arm[i] * arm[j]);
  }
  const { realEigenvalues: values, eigenvectorMatrix: vectors } = new EigenvalueDecomposition(spread, {
    assumeSymmetric: true,
  });
  const order = [0, 1, 2].sort((p, q) => (values[q] as number) - (values[p] as number));
  return order.map((k) => [vectors.get(0, k), vectors.get(1, k), vectors.get(2, k)]);
}

/** Radians about each axis, as one turn (Rodrigues). */
function rotationBy(by: Point3): Placing {
  const angle = Math.hypot(...by);
  if (angle === 0) return asItStands;
  const [x, y, z] = by.map((v) => v / angle) as unknown as Point3;
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  const d = 1 - c;
  return [
    c + x * x * d,
    y * x * d + z * s,
    z * x * d - y * s,
    0,
    x * y * d - z * s,
    c + y * y * d,
    z * y * d + x * s,
    0,
    x * z * d + y * s,
    y * z * d - x * s,
    c + z * z * d,
    0,
    0,
    0,
    0,
    1,
  ];
}

/** How much larger B is than A, by their volumes where both enclose bodies, else by their areas. */
export function growthBetween(a: Mesh, b: Mesh): number {
  const [inA, inB] = [measuresOf(a), measuresOf(b)];
  if (!inA || !inB || inA.area === 0) return 1;
  if (inA.isClosed && inB.isClosed && inA.volume !== 0) return Math.cbrt(Math.abs(inB.volume / inA.volume));
  return Math.sqrt(inB.area / inA.area);
}

function middleOf(points: readonly Point3[]): Point3 {
  const n = points.length || 1;
  const sum = (axis: 0 | 1 | 2): number => points.reduce((total, point) => total + point[axis], 0) / n;
  return [sum(0), sum(1), sum(2)];
}
