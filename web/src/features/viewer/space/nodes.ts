/** What of models is put on the stage: faces, edges, what a plane cuts, and marks. */
import { slicesOf, type Plane } from '@ovrel/core/space';
import {
  BackSide,
  BufferAttribute,
  BufferGeometry,
  Color,
  DoubleSide,
  EdgesGeometry,
  FrontSide,
  Group as Node,
  LineBasicMaterial,
  LineDashedMaterial,
  LineSegments,
  Mesh,
  MeshBasicMaterial,
  MeshLambertMaterial,
  Plane as ClippingPlane,
  Vector3,
  type Material,
} from 'three';
import type { Group, Paint } from './groups.ts';
import type { Box3 } from './orbit.ts';
import type { Spot3 } from './ways.ts';

/** As on paper, in either theme; LOOK: never by colour alone, so edges are dashed or double, too. */
const ink: Readonly<Record<Paint, number>> = {
  plain: 0x17212b,
  same: 0x5b6670,
  added: 0x0f766e,
  removed: 0xb45309,
  changed: 0x6d28d9,
  moved: 0x1d4ed8,
};

/** Edges between faces that meet at a smaller angle, in degrees, are not drawn. */
const CREASE = 22;
/** Triangles beyond which edges are not drawn: finding them takes too long. */
const MOST_EDGED = 250_000;

export interface Side {
  readonly groups: readonly Group[];
  /** Faint: only there to show where the rest is. */
  readonly faint: boolean;
  readonly dashed: boolean;
  /** Painted by the distance from the other side; in design units where the scale ends. */
  readonly heat?: number | undefined;
  /** The same of what changed alone. */
  readonly heatOfChanged?: number | undefined;
}

/** A cut takes away what lies on its other side. */
const clippingOf = (cut: Plane | undefined): ClippingPlane[] =>
  cut ? [new ClippingPlane(new Vector3(...cut.normal).negate(), cut.at)] : [];

/** The inside of a body, where it is cut: one flat tone, as on paper. */
const CUT = 0x8b969f;

export function nodeOf(side: Side, cut: Plane | undefined): Node {
  const node = new Node();
  const triangles = side.groups.reduce((sum, group) => sum + group.triangles.length / 3, 0);
  for (const group of side.groups) {
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', new BufferAttribute(group.points, 3));
    geometry.setIndex(new BufferAttribute(group.triangles, 1));
    // Flat faces, as they are: normals that are smoothed hide edges.
    const flat = geometry.toNonIndexed();
    flat.computeVertexNormals();
    const isFaint = side.faint && group.paint === 'same';
    const colours = coloursOf(group, side);
    if (colours) flat.setAttribute('color', new BufferAttribute(colours, 3));
    const material = new MeshLambertMaterial({
      color: colours ? 0xffffff : new Color(group.paint === 'changed' && side.dashed ? ink.removed : ink[group.paint]),
      vertexColors: colours !== undefined,
      side: cut ? FrontSide : DoubleSide,
      clippingPlanes: clippingOf(cut),
      transparent: isFaint || side.dashed,
      opacity: opacityOf(isFaint, side.dashed),
      depthWrite: !isFaint && !side.dashed,
      polygonOffset: true,
      polygonOffsetFactor: 1,
      polygonOffsetUnits: 1,
    });
    const mesh = new Mesh(flat, material);
    mesh.userData = { group, side: side.dashed ? 'a' : 'b' };
    node.add(mesh);
    if (cut && !side.dashed) node.add(insideOf(flat, cut, isFaint, mesh.userData));
    if (triangles <= MOST_EDGED) {
      const edges = edgesOf(geometry, group.paint, side, isFaint);
      (edges.material as Material).clippingPlanes = clippingOf(cut);
      node.add(edges);
    }
  }
  return node;
}

/** What is seen of faces from behind is seen through the cut. */
function insideOf(flat: BufferGeometry, cut: Plane, isFaint: boolean, userData: object): Mesh {
  const material = new MeshBasicMaterial({
    color: CUT,
    side: BackSide,
    clippingPlanes: clippingOf(cut),
    transparent: isFaint,
    opacity: isFaint ? 0.5 : 1,
  });
  const mesh = new Mesh(flat, material);
  mesh.userData = userData;
  return mesh;
}

/** Lines in which the plane cuts, in the colour of what is cut. */
export function outlinesOf({ groups, dashed }: Side, cut: Plane, depth: number): Node {
  const node = new Node();
  // On this side of the plane, so that the filling does not hide it.
  const lift = depth * 5e-4;
  for (const group of groups) {
    const ends = Float32Array.from(slicesOf(group, cut), (value, k) => value + lift * (cut.normal[k % 3] as number));
    if (ends.length === 0) continue;
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', new BufferAttribute(ends, 3));
    const color = group.paint === 'same' ? ink.plain : edgeInk(group.paint, dashed, undefined);
    const size = depth / 80;
    const lines = new LineSegments(
      geometry,
      dashed ? new LineDashedMaterial({ color, dashSize: size, gapSize: size / 2 }) : new LineBasicMaterial({ color }),
    );
    if (dashed) lines.computeLineDistances();
    node.add(lines);
  }
  return node;
}

/** Crosses at the places, and lines from one to the next. */
export function spotsNode(spots: readonly Spot3[], depth: number): LineSegments {
  const arm = depth / 160;
  const crosses = spots.flatMap(([x, y, z]) =>
    [0, 1, 2].flatMap((axis) =>
      [-arm, arm].flatMap((way) => [x, y, z].map((value, k) => value + (k === axis ? way : 0))),
    ),
  );
  const ways = spots.slice(1).flatMap((spot, k) => [...(spots[k] as Spot3), ...spot]);
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(Float32Array.from([...crosses, ...ways]), 3));
  return new LineSegments(geometry, new LineBasicMaterial({ color: ink.plain, depthTest: false }));
}

const opacityOf = (isFaint: boolean, dashed: boolean): number => {
  if (isFaint) return 0.14;
  return dashed ? 0.3 : 1;
};

function edgesOf(
  geometry: BufferGeometry,
  paint: Paint,
  { dashed, heat, heatOfChanged }: Side,
  isFaint: boolean,
): LineSegments {
  const edges = new EdgesGeometry(geometry, CREASE);
  geometry.computeBoundingSphere();
  const size = geometry.boundingSphere?.radius ?? 1;
  const look = {
    color: edgeInk(paint, dashed, heat ?? heatOfChanged),
    transparent: true,
    opacity: isFaint ? 0.35 : 0.9,
  };
  const lines = new LineSegments(
    edges,
    dashed ? new LineDashedMaterial({ ...look, dashSize: size / 30, gapSize: size / 45 }) : new LineBasicMaterial(look),
  );
  if (dashed) lines.computeLineDistances();
  return lines;
}

/** What is told by the colour of faces has plain edges; what was so in A has those of A. */
function edgeInk(paint: Paint, dashed: boolean, heat: number | undefined): number {
  if (paint === 'changed' && dashed) return ink.removed;
  return paint === 'changed' && heat !== undefined ? ink.plain : ink[paint];
}

/** Of each corner of each triangle; undefined where one colour will do. */
function coloursOf(group: Group, { heat, heatOfChanged }: Side): Float32Array | undefined {
  if (group.paint === 'changed' && heatOfChanged !== undefined) return heatColours(group.distances, heatOfChanged);
  // What has no counterpart is all the way outside.
  if (heat !== undefined && group.paint === 'added') return undefined;
  if (heat !== undefined) return heatColours(group.distances, heat);
  return group.paint === 'plain' ? spread(group.colours, group.triangles) : undefined;
}

const [teal, amber, grey] = [0x0f766e, 0xb45309, 0xd5dade].map((hex) => new Color(hex)) as [Color, Color, Color];

/** Grey where both are the same; teal outwards, amber inwards, the deeper the further. */
function heatColours(distances: Float32Array, most: number): Float32Array {
  const colours = new Float32Array(3 * distances.length);
  const mixed = new Color();
  distances.forEach((distance, k) => {
    mixed.copy(grey).lerp(distance > 0 ? teal : amber, Math.min(1, Math.sqrt(Math.abs(distance) / (most || 1))));
    mixed.toArray(colours, 3 * k);
  });
  return colours;
}

/** Values of points as those of the corners of triangles. */
function spread(values: Float32Array, triangles: Uint32Array): Float32Array {
  const out = new Float32Array(3 * triangles.length);
  triangles.forEach((point, k) => out.set(values.subarray(3 * point, 3 * point + 3), 3 * k));
  return out;
}

const PLUM = 0x6b2d5c;

export function boxNode([x0, y0, z0, x1, y1, z1]: Box3): LineSegments {
  const at = (k: number): [number, number, number] => [k & 1 ? x1 : x0, k & 2 ? y1 : y0, k & 4 ? z1 : z0];
  const pairs = [0, 1, 2, 3, 4, 5, 6, 7].flatMap((k) =>
    [1, 2, 4].filter((bit) => !(k & bit)).map((bit) => [k, k | bit]),
  );
  const geometry = new BufferGeometry();
  const points = pairs.flatMap(([from = 0, to = 0]) => [...at(from), ...at(to)]);
  geometry.setAttribute('position', new BufferAttribute(Float32Array.from(points), 3));
  return new LineSegments(geometry, new LineBasicMaterial({ color: PLUM, depthTest: false }));
}
