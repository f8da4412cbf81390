/** Surfaces for tests, and files of them. */
import { unitedMesh, type Mesh } from './mesh.ts';
import { welded } from './weld.ts';

/** A block with its lowest corner at a place. */
export function block(
  [x, y, z]: readonly [number, number, number],
  [dx, dy, dz]: readonly [number, number, number],
): Mesh {
  const points = Float64Array.from(
    [0, 1, 2, 3, 4, 5, 6, 7].flatMap((k) => [x + (k & 1 ? dx : 0), y + (k & 2 ? dy : 0), z + (k & 4 ? dz : 0)]),
  );
  const faces = [
    [0, 2, 3, 1],
    [4, 5, 7, 6],
    [0, 1, 5, 4],
    [2, 6, 7, 3],
    [0, 4, 6, 2],
    [1, 3, 7, 5],
  ];
  const triangles = faces.flatMap(([p = 0, q = 0, r = 0, s = 0]) => [p, q, r, p, r, s]);
  return { points, triangles: Uint32Array.from(triangles) };
}

/** Upright, on the ground at a place. */
export function cylinder(
  [x, y, z]: readonly [number, number, number],
  radius: number,
  height: number,
  sides = 48,
): Mesh {
  const points: number[] = [x, y, z, x, y, z + height];
  for (let k = 0; k < sides; k++) {
    const [c, s] = [Math.cos((2 * Math.PI * k) / sides), Math.sin((2 * Math.PI * k) / sides)];
    points.push(x + radius * c, y + radius * s, z, x + radius * c, y + radius * s, z + height);
  }
  const triangles: number[] = [];
  for (let k = 0; k < sides; k++) {
    const [low, high] = [2 + 2 * k, 3 + 2 * k];
    const [nextLow, nextHigh] = [2 + 2 * ((k + 1) % sides), 3 + 2 * ((k + 1) % sides)];
    triangles.push(0, nextLow, low, 1, high, nextHigh, low, nextLow, nextHigh, low, nextHigh, high);
  }
  return { points: Float64Array.from(points), triangles: Uint32Array.from(triangles) };
}

/** About the origin. */
export function ball(radius: number, rings = 48): Mesh {
  const corners: number[] = [];
  const at = (ring: number, step: number): number[] => {
    const [polar, round] = [(Math.PI * ring) / rings, (Math.PI * step) / rings];
    return [
      radius * Math.sin(polar) * Math.cos(round),
      radius * Math.sin(polar) * Math.sin(round),
      radius * Math.cos(polar),
    ];
  };
  for (let ring = 0; ring < rings; ring++)
    for (let step = 0; step < 2 * rings; step++) {
      const [p, q, r, s] = [
        at(ring, step),
        at(ring + 1, step),
        at(ring + 1, (step + 1) % (2 * rings)),
        at(ring, (step + 1) % (2 * rings)),
      ];
      if (ring < rings - 1) corners.push(...p, ...q, ...r);
      if (ring > 0) corners.push(...p, ...r, ...s);
    }
  return welded(Float64Array.from(corners, (value) => (Math.abs(value) < 1e-12 ? 0 : value)));
}

/** Binary STL. */
export function stlOf(...meshes: readonly Mesh[]): Uint8Array {
  const { points, triangles } = unitedMesh(meshes);
  const count = triangles.length / 3;
  const out = new DataView(new ArrayBuffer(84 + 50 * count));
  out.setUint32(80, count, true);
  for (let t = 0; t < count; t++)
    for (let k = 0; k < 9; k++)
      out.setFloat32(
        84 + 50 * t + 12 + 4 * k,
        points[3 * (triangles[3 * t + Math.floor(k / 3)] as number) + (k % 3)] as number,
        true,
      );
  return new Uint8Array(out.buffer);
}
