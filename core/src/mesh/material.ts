/** What was added to a closed body and what was taken from it, as bodies. */
import type { ManifoldToplevel } from 'manifold-3d';
import { EigenvalueDecomposition, Matrix } from 'ml-matrix';
import { measuresOf } from './measure.ts';
import type { Mesh, Point3 } from './mesh.ts';
import { placedMesh, placePoint, undone, type Placing } from './placing.ts';
import { cross, unit } from './vector.ts';

export interface Material {
  readonly added: readonly Mesh[];
  readonly removed: readonly Mesh[];
}

/** Undefined where one of the two does not enclose a body. */
export function materialBetween(manifold: ManifoldToplevel, a: Mesh, b: Mesh, tolerance: number): Material | undefined {
  const [solidA, solidB] = [solidOf(manifold, a, tolerance), solidOf(manifold, b, tolerance)];
  try {
    if (!solidA || !solidB) return undefined;
    const [added, removed] = [solidB.subtract(solidA), solidA.subtract(solidB)];
    return { added: bodiesWithin(added, tolerance), removed: bodiesWithin(removed, tolerance) };
  } finally {
    solidA?.delete();
    solidB?.delete();
  }
}

/** Without the thin skins that lie between surfaces which were rounded otherwise. */
function bodiesWithin(body: Body, tolerance: number): Mesh[] {
  const plain = simplified(body, tolerance);
  const found = plain.isEmpty() ? [] : plain.decompose().map(takenOut);
  plain.delete();
  return found;
}

function simplified(body: Body, tolerance: number): Body {
  const plain = body.simplify(tolerance);
  body.delete();
  return plain;
}

function takenOut(body: Body): Mesh {
  const mesh = meshOf(body);
  body.delete();
  return mesh;
}

type Body = InstanceType<ManifoldToplevel['Manifold']>;

function solidOf(
  { Manifold, Mesh: Surface }: ManifoldToplevel,
  { points, triangles }: Mesh,
  tolerance: number,
): Body | undefined {
  try {
    // Single precision keeps seven digits: of places near the middle of the body these are enough.
    const solid = new Manifold(
      new Surface({ numProp: 3, vertProperties: Float32Array.from(points), triVerts: triangles.slice() }),
    );
    // Faces that were cut into smaller ones become whole again, so that both sides have the same.
    if (solid.status() === 'NoError' && !solid.isEmpty()) return simplified(solid, tolerance);
    solid.delete();
  } catch {
    // It is not closed.
  }
  return undefined;
}

function meshOf(body: Body): Mesh {
  const { vertProperties, triVerts, numProp } = body.getMesh();
  const points = new Float64Array((3 * vertProperties.length) / numProp);
  for (let p = 0; p < points.length / 3; p++)
    for (let axis = 0; axis < 3; axis++) points[3 * p + axis] = vertProperties[p * numProp + axis] as number;
  return { points, triangles: triVerts.slice() };
}

export interface Bore {
  readonly diameter: number;
  readonly depth: number;
  readonly axis: Point3;
  /** The middle of it. */
  readonly centre: Point3;
  /** A place on its wall, half-way along. */
  readonly wall: Point3;
}

/** Faces that lean no more than so against the axis belong to the wall, in sines. */
const UPRIGHT = 0.02;
/** Share of the radius within which the wall is round. */
const ROUND = 0.03;
const LEAST_FACES = 12;

/** The round hole, or pin, that a body fills; undefined where it is of another shape. */
export function boreOf(body: Mesh): Bore | undefined {
  for (const axis of axesOf(body)) {
    const upright = uprightFor(axis);
    const bore = boreUpright(placedMesh(body, upright));
    const back = bore && undone(upright);
    if (back) return { ...bore, axis, centre: placePoint(back, bore.centre), wall: placePoint(back, bore.wall) };
  }
  return undefined;
}

/** Directions that a bore may have: those of the model, and those that its faces stand in. */
function axesOf(body: Mesh): Point3[] {
  const spread = Matrix.zeros(3, 3);
  for (let t = 0; t < body.triangles.length; t += 3) {
    const { normal, area } = faceOf(body, t);
    for (const row of AXES)
      for (const column of AXES) spread.set(row, column, spread.get(row, column) + area * normal[row] * normal[column]);
  }
  const { eigenvectorMatrix: found } = new EigenvalueDecomposition(spread, { assumeSymmetric: true });
  const own = AXES.map((k): Point3 => [found.get(0, k), found.get(1, k), found.get(2, k)]);
  return [[1, 0, 0], [0, 1, 0], [0, 0, 1], ...own];
}

/** Turns a direction upwards. */
function uprightFor(axis: Point3): Placing {
  const aside: Point3 = Math.abs(axis[0]) < 0.9 ? [1, 0, 0] : [0, 1, 0];
  const first = unit(cross(aside, axis));
  const second = cross(axis, first);
  const rows = [first, second, axis] as const;
  return [...AXES.flatMap((k) => [rows[0][k], rows[1][k], rows[2][k], 0]), 0, 0, 0, 1];
}

function boreUpright(body: Mesh): Omit<Bore, 'axis'> | undefined {
  const measures = measuresOf(body);
  if (!measures) return undefined;
  const { box, centre, volume } = measures;
  const widths = [box[3] - box[0], box[4] - box[1]] as const;
  const diameter = Math.max(...widths);
  const depth = box[5] - box[2];
  if (Math.min(...widths) < (1 - 2 * ROUND) * diameter) return undefined;
  // Flat faces and walls alone: the body is as large as the cylinder around it.
  const cylinder = (Math.PI / 4) * diameter * diameter * depth;
  if (Math.abs(Math.abs(volume) / cylinder - 1) > 2 * ROUND) return undefined;
  const { points, triangles } = body;
  let wall = 0;
  let place: Point3 | undefined;
  for (let t = 0; t < triangles.length; t += 3) {
    const lean = Math.abs(faceOf(body, t).normal[2]);
    if (lean > UPRIGHT) {
      if (lean < 1 - UPRIGHT) return undefined;
      continue;
    }
    wall++;
    const first = 3 * (triangles[t] as number);
    place = [points[first] as number, points[first + 1] as number, (box[2] + box[5]) / 2];
    for (let k = 0; k < 3; k++) {
      const at = 3 * (triangles[t + k] as number);
      const radius = Math.hypot((points[at] as number) - centre[0], (points[at + 1] as number) - centre[1]);
      if (Math.abs((2 * radius) / diameter - 1) > ROUND) return undefined;
    }
  }
  if (wall < LEAST_FACES || !place) return undefined;
  return { diameter, depth, wall: place, centre: [centre[0], centre[1], (box[2] + box[5]) / 2] };
}

const AXES = [0, 1, 2] as const;

function faceOf({ points, triangles }: Mesh, t: number): { readonly normal: Point3; readonly area: number } {
  const [a, b, c] = [0, 1, 2].map((k) => 3 * (triangles[t + k] as number)) as [number, number, number];
  const side = (p: number): Point3 => [
    (points[p] as number) - (points[a] as number),
    (points[p + 1] as number) - (points[a + 1] as number),
    (points[p + 2] as number) - (points[a + 2] as number),
  ];
  const normal = cross(side(b), side(c));
  return { normal: unit(normal), area: Math.hypot(...normal) / 2 };
}
