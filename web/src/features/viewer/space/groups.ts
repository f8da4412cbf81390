/** Parts of a model put together by how they are painted: few things to draw, however many parts there are. Pure. */
import { placedWithin, type Placing, type Space } from '@ovrel/core/space';

export type Paint = 'plain' | 'same' | 'added' | 'removed' | 'changed' | 'moved';

export interface Group {
  readonly paint: Paint;
  readonly points: Float32Array;
  readonly triangles: Uint32Array;
  /** Red, green and blue of each point, 0 to 1. */
  readonly colours: Float32Array;
  /** Of each corner of each triangle: how far it lies from the other side; 0 where that is not known. */
  readonly distances: Float32Array;
  /** Parts in the order in which they stand, and the first triangle of each. */
  readonly parts: readonly number[];
  readonly starts: readonly number[];
}

interface Look {
  /** How a part is painted; undefined where it is not shown. */
  readonly paintOf: (part: number) => Paint | undefined;
  readonly distancesOf: (part: number) => Float32Array | undefined;
  /** How the model stands in the scene. */
  readonly stands: Placing;
}

const PLAIN = [0.77, 0.8, 0.82] as const;

export function groupsOf({ head, meshes }: Space, { paintOf, distancesOf, stands }: Look): Group[] {
  const byPaint = new Map<Paint, number[]>();
  head.parts.forEach(({ mesh }, part) => {
    const paint = mesh < 0 ? undefined : paintOf(part);
    if (paint === undefined) return;
    const list = byPaint.get(paint);
    if (list) list.push(part);
    else byPaint.set(paint, [part]);
  });
  return [...byPaint].map(([paint, parts]) => {
    const of = (part: number): { points: Float32Array; triangles: Uint32Array } =>
      meshes[head.parts[part]?.mesh ?? -1] as { points: Float32Array; triangles: Uint32Array };
    const sum = (count: (part: number) => number): number => parts.reduce((n, part) => n + count(part), 0);
    const points = new Float32Array(sum((part) => of(part).points.length));
    const colours = new Float32Array(points.length);
    const triangles = new Uint32Array(sum((part) => of(part).triangles.length));
    const distances = new Float32Array(triangles.length);
    const starts: number[] = [];
    let [point, corner] = [0, 0];
    for (const part of parts) {
      const surface = of(part);
      const { placing, colour = PLAIN } = head.parts[part] ?? {};
      placeInto(points, 3 * point, surface.points, placing ? placedWithin(stands, placing) : stands);
      for (let k = 0; k < surface.points.length; k++) colours[3 * point + k] = colour[k % 3] as number;
      const known = distancesOf(part);
      if (known) distances.set(known, corner);
      for (let k = 0; k < surface.triangles.length; k++)
        triangles[corner + k] = (surface.triangles[k] as number) + point;
      starts.push(corner / 3);
      point += surface.points.length / 3;
      corner += surface.triangles.length;
    }
    return { paint, points, triangles, colours, distances, parts, starts };
  });
}

function placeInto(to: Float32Array, at: number, points: Float32Array, m: Placing): void {
  for (let p = 0; p < points.length; p += 3) {
    const [x, y, z] = [points[p] as number, points[p + 1] as number, points[p + 2] as number];
    for (let row = 0; row < 3; row++)
      to[at + p + row] =
        (m[row] as number) * x + (m[4 + row] as number) * y + (m[8 + row] as number) * z + (m[12 + row] as number);
  }
}

/** The part that a triangle of a group is of. */
export function partOfTriangle({ parts, starts }: Group, triangle: number): number {
  let [low, high] = [0, starts.length - 1];
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if ((starts[middle] as number) <= triangle) low = middle;
    else high = middle - 1;
  }
  return parts[low] as number;
}

/** Only the triangles that lie further off than `reach`; all where nothing is known of it. */
export function offOnly(group: Group, reach: number): Group {
  if (!group.distances.some((distance) => Math.abs(distance) > reach)) return group;
  const kept: number[] = [];
  for (let t = 0; t < group.triangles.length; t += 3)
    if ([t, t + 1, t + 2].some((corner) => Math.abs(group.distances[corner] as number) > reach)) kept.push(t);
  const corners = kept.flatMap((t) => [t, t + 1, t + 2]);
  const starts = group.starts.map((start) => kept.filter((t) => t / 3 < start).length);
  return {
    ...group,
    triangles: Uint32Array.from(corners, (corner) => group.triangles[corner] as number),
    distances: Float32Array.from(corners, (corner) => group.distances[corner] as number),
    starts,
  };
}
