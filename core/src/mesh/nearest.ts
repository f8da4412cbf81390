/** The nearest point of a surface, and on which side of it one is. */
import { BufferAttribute, BufferGeometry, Vector3 } from 'three';
import { MeshBVH, type HitPointInfo } from 'three-mesh-bvh';
import type { Mesh, Point3 } from './mesh.ts';
import { cross, dot, minus, unit } from './vector.ts';

export interface Nearest {
  /** Positive outside, negative inside; undefined where the surface has no triangle within reach. */
  signed(x: number, y: number, z: number, reach?: number): number | undefined;
  /** The point itself with the normal of its face; undefined as above. What it gives is used anew by the next call. */
  point(x: number, y: number, z: number): Touch | undefined;
}

interface Touch {
  readonly point: Point3;
  readonly normal: Point3;
  readonly distance: number;
}

/** Share of a triangle within which a point counts as on its edge or corner. */
const AT_THE_EDGE = 1e-6;

/** Sides are told by normals that weigh angles, so that edges and corners have one, too (Bærentzen and Aanæs 2005). */
export function nearestOn(mesh: Mesh): Nearest {
  const known = trees.get(mesh) ?? treeOf(mesh);
  trees.set(mesh, known);
  return known;
}

/** One surface is asked often, and its tree takes long to make. */
const trees = new WeakMap<Mesh, Nearest>();

function treeOf(mesh: Mesh): Nearest {
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(mesh.points, 3));
  // The tree sorts its index.
  geometry.setIndex(new BufferAttribute(mesh.triangles.slice(), 1));
  const tree = new MeshBVH(geometry, { targetLeafSize: 8 });
  const order = geometry.index?.array as Uint32Array;
  const normals = new Normals(mesh.points, order);
  const from = new Vector3();
  const found: HitPointInfo = { point: new Vector3(), distance: 0, faceIndex: 0 };
  // Whoever stands near where one asked last is no further off than that, and the way there: most need not be searched.
  const last = new Vector3();
  let lastDistance = Infinity;
  const nearestWithin = (reach: number): HitPointInfo | null => {
    const bound = (lastDistance + from.distanceTo(last)) * (1 + 1e-6);
    const hit =
      bound < reach
        ? (tree.closestPointToPoint(from, found, 0, bound) ?? tree.closestPointToPoint(from, found, 0, reach))
        : tree.closestPointToPoint(from, found, 0, reach);
    if (hit) {
      last.copy(from);
      lastDistance = hit.distance;
    }
    return hit;
  };
  return {
    signed(x, y, z, reach = Infinity) {
      from.set(x, y, z);
      const hit = nearestWithin(reach);
      if (!hit) return undefined;
      const [nx, ny, nz] = normals.at(hit.faceIndex, hit.point);
      const side = (x - hit.point.x) * nx + (y - hit.point.y) * ny + (z - hit.point.z) * nz;
      return side < 0 ? -hit.distance : hit.distance;
    },
    point(x, y, z) {
      from.set(x, y, z);
      const hit = nearestWithin(Infinity);
      if (!hit) return undefined;
      const { point, distance, faceIndex } = hit;
      return { point: [point.x, point.y, point.z], normal: normals.face(faceIndex), distance };
    },
  };
}

/** Point3s of faces, edges and corners; those of edges and corners are made when one is asked for. */
class Normals {
  private readonly points: Float64Array;
  private readonly order: Uint32Array;
  private around: Around | undefined;

  constructor(points: Float64Array, order: Uint32Array) {
    this.points = points;
    this.order = order;
  }

  at(face: number, point: Vector3): Point3 {
    const shares = this.shares(face, point);
    const zero = shares.flatMap((share, k) => (share < AT_THE_EDGE ? [k] : []));
    if (zero.length === 0) return this.face(face);
    const corner = (k: number): number => this.order[3 * face + k] as number;
    if (zero.length === 1)
      return this.edge(corner(((zero[0] as number) + 1) % 3), corner(((zero[0] as number) + 2) % 3));
    return this.corner(corner(shares.indexOf(Math.max(...shares))));
  }

  /** How much each corner of a face weighs at a point of it. */
  private shares(face: number, { x, y, z }: Vector3): [number, number, number] {
    const [a, b, c] = this.placesOf(face);
    const [u, v, w] = [minus(b, a), minus(c, a), minus([x, y, z], a)];
    const [uu, uv, vv] = [dot(u, u), dot(u, v), dot(v, v)];
    const [wu, wv] = [dot(w, u), dot(w, v)];
    const det = uu * vv - uv * uv;
    if (det === 0) return [1, 1, 1];
    const second = (vv * wu - uv * wv) / det;
    const third = (uu * wv - uv * wu) / det;
    return [1 - second - third, second, third];
  }

  private placesOf(face: number): [Point3, Point3, Point3] {
    const place = (k: number): Point3 => {
      const point = 3 * (this.order[3 * face + k] as number);
      return [this.points[point] as number, this.points[point + 1] as number, this.points[point + 2] as number];
    };
    return [place(0), place(1), place(2)];
  }

  face(face: number): Point3 {
    const [a, b, c] = this.placesOf(face);
    return unit(cross(minus(b, a), minus(c, a)));
  }

  /** Of the faces at both ends of an edge. */
  private edge(p: number, q: number): Point3 {
    let sum: Point3 = [0, 0, 0];
    for (const face of this.facesAt(p))
      if ([0, 1, 2].some((k) => this.order[3 * face + k] === q)) sum = plus(sum, this.face(face), 1);
    return sum;
  }

  /** Of all faces at a corner, each by its angle there. */
  private corner(point: number): Point3 {
    let sum: Point3 = [0, 0, 0];
    for (const face of this.facesAt(point)) {
      const places = this.placesOf(face);
      const k = [0, 1, 2].findIndex((one) => this.order[3 * face + one] === point) as 0 | 1 | 2;
      const [next, last] = [places[((k + 1) % 3) as 0 | 1 | 2], places[((k + 2) % 3) as 0 | 1 | 2]];
      sum = plus(sum, this.face(face), angleBetween(minus(next, places[k]), minus(last, places[k])));
    }
    return sum;
  }

  private facesAt(point: number): Uint32Array {
    this.around ??= facesAround(this.points.length / 3, this.order);
    const { starts, faces } = this.around;
    return faces.subarray(starts[point], starts[point + 1]);
  }
}

interface Around {
  /** Where the faces of each point begin; one more entry at the end. */
  readonly starts: Uint32Array;
  readonly faces: Uint32Array;
}

function facesAround(points: number, order: Uint32Array): Around {
  const starts = new Uint32Array(points + 1);
  for (const point of order) starts[point + 1] = (starts[point + 1] as number) + 1;
  for (let point = 0; point < points; point++)
    starts[point + 1] = (starts[point + 1] as number) + (starts[point] as number);
  const filled = starts.slice();
  const faces = new Uint32Array(order.length);
  order.forEach((point, corner) => {
    const at = filled[point] as number;
    faces[at] = Math.floor(corner / 3);
    filled[point] = at + 1;
  });
  return { starts, faces };
}

const plus = (p: Point3, q: Point3, weight: number): Point3 => [
  p[0] + weight * q[0],
  p[1] + weight * q[1],
  p[2] + weight * q[2],
];

const angleBetween = (p: Point3, q: Point3): number => Math.atan2(Math.hypot(...cross(p, q)), dot(p, q));
