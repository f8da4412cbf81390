/** What can be measured of a surface: area, volume, centre of mass, and whether it is closed. */
import { boxOfPoints, type Box3, type Mesh, type Point3 } from './mesh.ts';

export interface Edges {
  /** Edges of one triangle alone: they go round holes. */
  readonly open: number;
  /** Edges that both triangles run along in the same direction: one of the two is inside out. */
  readonly flipped: number;
  /** Edges of more than two triangles. */
  readonly crowded: number;
}

export interface Measures {
  /** In cubic units; of a surface that is not closed it says little. Negative where it is inside out. */
  readonly volume: number;
  readonly area: number;
  /** Of the volume where it is closed, else of the surface. */
  readonly centre: Point3;
  readonly box: Box3;
  readonly edges: Edges;
  /** Triangles without an area. */
  readonly flat: number;
  readonly isClosed: boolean;
}

/** Undefined where there is no triangle. Volume by the divergence theorem, from the middle of the box. */
export function measuresOf(mesh: Mesh): Measures | undefined {
  const { points, triangles } = mesh;
  const box = boxOfPoints(points);
  if (!box || triangles.length === 0) return undefined;
  const [ox, oy, oz] = [(box[0] + box[3]) / 2, (box[1] + box[4]) / 2, (box[2] + box[5]) / 2];
  let volume = 0;
  let area = 0;
  let flat = 0;
  const byVolume: [number, number, number] = [0, 0, 0];
  const byArea: [number, number, number] = [0, 0, 0];
  for (let t = 0; t < triangles.length; t += 3) {
    const a = 3 * (triangles[t] as number);
    const b = 3 * (triangles[t + 1] as number);
    const c = 3 * (triangles[t + 2] as number);
    const ax = (points[a] as number) - ox;
    const ay = (points[a + 1] as number) - oy;
    const az = (points[a + 2] as number) - oz;
    const bx = (points[b] as number) - ox;
    const by = (points[b + 1] as number) - oy;
    const bz = (points[b + 2] as number) - oz;
    const cx = (points[c] as number) - ox;
    const cy = (points[c + 1] as number) - oy;
    const cz = (points[c + 2] as number) - oz;
    const ux = bx - ax;
    const uy = by - ay;
    const uz = bz - az;
    const vx = cx - ax;
    const vy = cy - ay;
    const vz = cz - az;
    const nx = uy * vz - uz * vy;
    const ny = uz * vx - ux * vz;
    const nz = ux * vy - uy * vx;
    const twice = Math.hypot(nx, ny, nz);
    if (twice === 0) flat++;
    area += twice / 2;
    const six = ax * nx + ay * ny + az * nz;
    volume += six / 6;
    const middle = [ax + bx + cx, ay + by + cy, az + bz + cz] as const;
    for (const k of [0, 1, 2] as const) {
      byVolume[k] += (six / 24) * middle[k];
      byArea[k] += (twice / 6) * middle[k];
    }
  }
  const edges = edgesOf(mesh);
  const isClosed = edges.open === 0 && edges.flipped === 0 && edges.crowded === 0;
  const [sum, by] = isClosed && volume !== 0 ? [byVolume, volume] : [byArea, area || 1];
  const centre: Point3 = [ox + sum[0] / by, oy + sum[1] / by, oz + sum[2] / by];
  return { volume, area, centre, box, edges, flat, isClosed };
}

/** Each edge as one number, with its direction in the last bit; sorted, equal edges stand together. */
function edgesOf({ points, triangles }: Mesh): Edges {
  const n = points.length / 3;
  const keys = new Float64Array(triangles.length);
  for (let t = 0; t < triangles.length; t += 3)
    for (let k = 0; k < 3; k++) {
      const from = triangles[t + k] as number;
      const to = triangles[t + ((k + 1) % 3)] as number;
      keys[t + k] = from < to ? 2 * (from * n + to) : 2 * (to * n + from) + 1;
    }
  keys.sort();
  let open = 0;
  let flipped = 0;
  let crowded = 0;
  for (let at = 0; at < keys.length;) {
    const edge = Math.floor((keys[at] as number) / 2);
    let [forth, back] = [0, 0];
    for (; at < keys.length && Math.floor((keys[at] as number) / 2) === edge; at++)
      if ((keys[at] as number) % 2 === 0) forth++;
      else back++;
    if (forth + back === 1) open++;
    else if (forth + back > 2) crowded++;
    else if (forth !== back) flipped++;
  }
  return { open, flipped, crowded };
}
