/** From triangles that each have corners of their own to a surface whose triangles share them. */
import type { Mesh } from './mesh.ts';

/** `corners` are x, y and z of the three corners of each triangle. Corners of the same place become one point. */
export function welded(corners: Float64Array): Mesh {
  const count = corners.length / 3;
  const triangles = new Uint32Array(count);
  const table = new Int32Array(tableSize(count)).fill(-1);
  const mask = table.length - 1;
  const points = new Float64Array(corners.length);
  let n = 0;
  for (let c = 0; c < count; c++) {
    // −0 and 0 are one place.
    const x = (corners[3 * c] as number) + 0;
    const y = (corners[3 * c + 1] as number) + 0;
    const z = (corners[3 * c + 2] as number) + 0;
    let slot = placeHash(x, y, z) & mask;
    for (;;) {
      const known = table[slot] as number;
      if (known < 0) {
        table[slot] = n;
        points[3 * n] = x;
        points[3 * n + 1] = y;
        points[3 * n + 2] = z;
        triangles[c] = n++;
        break;
      }
      if (points[3 * known] === x && points[3 * known + 1] === y && points[3 * known + 2] === z) {
        triangles[c] = known;
        break;
      }
      slot = (slot + 1) & mask;
    }
  }
  return { points: points.slice(0, 3 * n), triangles };
}

/** Points of one place become one; triangles keep their order. */
export function weldedMesh({ points, triangles }: Mesh): Mesh {
  const corners = new Float64Array(3 * triangles.length);
  triangles.forEach((point, k) => {
    corners[3 * k] = points[3 * point] as number;
    corners[3 * k + 1] = points[3 * point + 1] as number;
    corners[3 * k + 2] = points[3 * point + 2] as number;
  });
  return welded(corners);
}

/** A power of two, at most half of it taken. */
function tableSize(entries: number): number {
  let size = 16;
  while (size < 2 * entries) size *= 2;
  return size;
}

const bits = new DataView(new ArrayBuffer(24));

/** All bits of the three numbers count (MurmurHash3's mixing steps). */
function placeHash(x: number, y: number, z: number): number {
  bits.setFloat64(0, x);
  bits.setFloat64(8, y);
  bits.setFloat64(16, z);
  let h = 0;
  for (let k = 0; k < 24; k += 4) {
    let w = Math.imul(bits.getInt32(k), 0xcc9e2d51);
    w = Math.imul((w << 15) | (w >>> 17), 0x1b873593);
    h ^= w;
    h = (Math.imul((h << 13) | (h >>> 19), 5) + 0xe6546b64) | 0;
  }
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
  return h ^ (h >>> 13);
}
