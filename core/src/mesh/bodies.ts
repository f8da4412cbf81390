/** Bodies: parts of a surface whose triangles hang together by shared points. */
import type { Mesh } from './mesh.ts';
import { withOwnPoints } from './own-points.ts';

/** The largest first, by triangles; points that no triangle uses are left out. */
export function bodiesOf(mesh: Mesh): Mesh[] {
  const { triangles } = mesh;
  const roots = rootsOf(mesh);
  const sizes = new Map<number, number>();
  for (let t = 0; t < triangles.length; t += 3) {
    const root = roots[triangles[t] as number] as number;
    sizes.set(root, (sizes.get(root) ?? 0) + 3);
  }
  if (sizes.size === 1) return [mesh];
  const parts = new Map([...sizes].map(([root, size]) => [root, { triangles: new Uint32Array(size), filled: 0 }]));
  for (let t = 0; t < triangles.length; t += 3) {
    const part = parts.get(roots[triangles[t] as number] as number);
    if (!part) continue;
    part.triangles.set(triangles.subarray(t, t + 3), part.filled);
    part.filled += 3;
  }
  return [...parts.values()]
    .sort((p, q) => q.triangles.length - p.triangles.length)
    .map((part) => withOwnPoints(mesh.points, part.triangles));
}

/** For each point one that stands for all that hang together with it. */
function rootsOf({ points, triangles }: Mesh): Uint32Array {
  const parent = Uint32Array.from({ length: points.length / 3 }, (_, k) => k);
  const rootOf = (point: number): number => {
    let root = point;
    while (parent[root] !== root) {
      parent[root] = parent[parent[root] as number] as number;
      root = parent[root] as number;
    }
    return root;
  };
  for (let t = 0; t < triangles.length; t += 3) {
    const root = rootOf(triangles[t] as number);
    parent[rootOf(triangles[t + 1] as number)] = root;
    parent[rootOf(triangles[t + 2] as number)] = root;
  }
  return parent.map((_, point) => rootOf(point));
}
