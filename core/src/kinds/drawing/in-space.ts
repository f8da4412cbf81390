/** What differs between two parts that stand in space and are one and the same thing. */
import { sayAxis } from '../../causes/phrases.ts';
import type { Difference } from '../../contract/comparison.ts';
import type { Motion } from '../../match/motion.ts';
import { boxOfPoints, diagonal3, type Mesh, type Point3 } from '../../mesh/mesh.ts';
import { placedMesh, placedWithin, placePoint, undone, type Placing } from '../../mesh/placing.ts';
import { motionBetweenMeshes, sameTriangles, turningOf } from '../../mesh/turning.ts';
import type { Design, Part } from '../../model/design.ts';
import { surfacesOf, type InSpace } from '../../model/solid.ts';
import type { Context, Differing } from './differences.ts';
import { say, sayShift } from './say.ts';

/** How two surfaces that stand in one place differ. */
export type Surfaces = 'triangulated anew' | 'inside out' | 'other';

/** `reach` is the distance within which they count as one. */
export type CompareSurfaces = (a: Mesh, b: Mesh, reach: number) => Surfaces;

const still: Differing = { what: [], size: 0 };

export function inSpace(context: Context, a: Part, b: Part, from: InSpace, to: InSpace): Differing {
  const isPlaced = a.definition !== undefined && b.definition !== undefined;
  if (isPlaced)
    return (
      moved(context, a, b, from, to, placingBetween(from.placing, to.placing)) ?? stretched(from.placing, to.placing)
    );
  const [surfaceA, surfaceB] = [surfaceOf(context.a, from), surfaceOf(context.b, to)];
  if (!surfaceA || !surfaceB) return still;
  const reach = 2 * context.tolerance;
  if (isSameMesh(surfaceA, surfaceB, reach)) return still;
  // What fills the same place was not moved, even if it could have been turned into itself.
  const isInPlace = fillsTheSame(a, b, from, to, reach);
  const anew = isInPlace ? reshaped(context, surfaceA, surfaceB, reach) : undefined;
  if (anew && anew.what.every(({ aspect }) => aspect === 'content')) return anew;
  const motion = motionBetweenMeshes(surfaceA, surfaceB, reach);
  const going = motion && moved(context, a, b, from, to, motion);
  if (going) return going;
  return anew ?? reshaped(context, surfaceA, surfaceB, reach);
}

const fillsTheSame = (a: Part, b: Part, from: InSpace, to: InSpace, reach: number): boolean => {
  const [before, after] = [
    [...(a.box ?? []), ...from.rise],
    [...(b.box ?? []), ...to.rise],
  ] as const;
  return before.length === after.length && before.every((value, k) => Math.abs(value - (after[k] as number)) <= reach);
};

function surfaceOf(design: Design, { mesh, placing }: InSpace): Mesh | undefined {
  const own = surfacesOf(design)[mesh];
  return own && placedMesh(own, placing);
}

/** A placement that is larger now in one direction than in another, or flat. */
function stretched(from: Placing, to: Placing): Differing {
  const lengths = (m: Placing): string =>
    [0, 4, 8].map((k) => say(Math.hypot(m[k] as number, m[k + 1] as number, m[k + 2] as number))).join(' × ');
  const size = Math.max(...from.map((value, k) => Math.abs(value - (to[k] as number))));
  return { what: [{ aspect: 'geometry', property: 'scale', from: lengths(from), to: lengths(to) }], size };
}

/** The motion from one placing to another. */
function placingBetween(from: Placing, to: Placing): Placing | undefined {
  const back = undone(from);
  return back && placedWithin(to, back);
}

/** Number for number, but for rounding: the same points, and the same triangles of them. */
function isSameMesh(a: Mesh, b: Mesh, reach: number): boolean {
  if (a.points.length !== b.points.length || !sameTriangles(a, b)) return false;
  return a.points.every((value, k) => Math.abs(value - (b.points[k] as number)) <= reach);
}

/** Undefined where the motion stretches. */
function moved(
  { tolerance }: Context,
  a: Part,
  b: Part,
  from: InSpace,
  to: InSpace,
  placing: Placing | undefined,
): Differing | undefined {
  const turning = placing && turningOf(placing);
  if (!placing || !turning) return undefined;
  const [before, after] = [cornerOf(a, from), cornerOf(b, to)];
  const middle = middleOf(a, from);
  const landed = placePoint(placing, middle);
  const shift: Point3 = [landed[0] - middle[0], landed[1] - middle[1], landed[2] - middle[2]];
  const isTurned = turning.turn >= 0.01 || turning.mirrored;
  const size = sizeOf(a, from);
  const isResized = Math.abs(turning.scale - 1) * size > 2 * tolerance && Math.abs(turning.scale - 1) > 1e-6;
  const distance = Math.hypot(...shift);
  const goes = distance > 2 * tolerance;
  if (!goes && !isTurned && !isResized) return still;
  const motion: Motion = {
    dx: shift[0],
    dy: shift[1],
    turn: turning.turn,
    scale: turning.scale,
    mirrored: turning.mirrored,
    re: 1,
    im: 0,
    x: shift[0],
    y: shift[1],
    space: { placing, axis: turning.axis, dz: shift[2] },
  };
  const how = [
    ...(goes ? [`by (${shift.map((n) => sayShift(Math.abs(n) <= tolerance ? 0 : n)).join(', ')})`] : []),
    ...(turning.turn >= 0.01 ? [`turned ${say(turning.turn)}° about ${sayAxis(turning.axis)}`] : []),
    ...(turning.mirrored ? ['mirrored'] : []),
  ];
  const what: Difference[] = [];
  if (isResized) what.push({ aspect: 'geometry', from: 'scale 1', to: `scale ${say(turning.scale)}` });
  if (how.length > 0)
    what.push({ aspect: 'placement', from: sayPlace(before), to: `${sayPlace(after)}, ${how.join(', ')}` });
  return { what, motion, size: distance };
}

function reshaped({ surfaces }: Context, a: Mesh, b: Mesh, reach: number): Differing {
  const found = surfaces?.(a, b, reach) ?? 'other';
  const said = (mesh: Mesh): string => `${(mesh.triangles.length / 3).toLocaleString('en')} triangles`;
  if (found === 'inside out')
    return { what: [{ aspect: 'content', property: 'faces', from: 'looking outwards', to: 'turned over' }], size: 0 };
  if (found === 'triangulated anew')
    return { what: [{ aspect: 'content', property: 'triangles', from: said(a), to: said(b) }], size: 0 };
  const [boxA, boxB] = [boxOfPoints(a.points), boxOfPoints(b.points)];
  if (!boxA || !boxB) return still;
  const extent = ([x0, y0, z0, x1, y1, z1]: typeof boxA): string =>
    `${say(x1 - x0)} × ${say(y1 - y0)} × ${say(z1 - z0)}`;
  return {
    what: [{ aspect: 'geometry', from: `${extent(boxA)}, ${said(a)}`, to: `${extent(boxB)}, ${said(b)}` }],
    size: Math.max(...boxA.map((value, k) => Math.abs(value - (boxB[k] as number)))),
  };
}

const cornerOf = ({ box, definition }: Part, { placing, rise }: InSpace): Point3 =>
  definition === undefined && box ? [box[0], box[1], rise[0]] : placePoint(placing, [0, 0, 0]);

const middleOf = ({ box }: Part, { placing, rise }: InSpace): Point3 =>
  box ? [(box[0] + box[2]) / 2, (box[1] + box[3]) / 2, (rise[0] + rise[1]) / 2] : placePoint(placing, [0, 0, 0]);

const sizeOf = ({ box }: Part, { rise }: InSpace): number =>
  box ? diagonal3([box[0], box[1], rise[0], box[2], box[3], rise[1]]) : 0;

const sayPlace = (point: Point3): string => `(${point.map(say).join(', ')})`;
