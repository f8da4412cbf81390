/**
 * Models as bytes for a viewer: length of the JSON head (u32, little-endian), the head, padding to 4 bytes, then for
 * each surface its points (f32) and triangles (u32). Points are told from the middle of the model, since 32 bits are too
 * few for places far away.
 */
import { z } from 'zod';
import type { Mesh } from '../../mesh/mesh.ts';
import { asItStands, placedMesh, placedWithin, type Placing } from '../../mesh/placing.ts';

const partSchema = z.object({
  kind: z.string(),
  name: z.string(),
  key: z.string().nullable(),
  category: z.string(),
  page: z.number().int(),
  parents: z.array(z.string()),
  /** −1 where it has no surface. */
  mesh: z.number().int(),
  placing: z.array(z.number()).length(16).optional(),
  /** Red, green and blue, 0 to 1. */
  colour: z.array(z.number()).length(3).optional(),
  props: z.record(z.string(), z.union([z.string(), z.number(), z.boolean()])),
});

const headSchema = z.object({
  unit: z.string(),
  unitMillimetres: z.number().nullable(),
  origin: z.array(z.number()).length(3),
  box: z.array(z.number()).length(6),
  pages: z.array(z.string()),
  meshes: z.array(z.object({ points: z.number().int(), triangles: z.number().int() })),
  parts: z.array(partSchema),
});

export type SpaceHead = z.infer<typeof headSchema>;
export type SpacePart = z.infer<typeof partSchema>;

export interface SpaceMesh {
  /** x, y and z, from the origin. */
  readonly points: Float32Array;
  readonly triangles: Uint32Array;
}

export interface Space {
  readonly head: SpaceHead;
  readonly meshes: readonly SpaceMesh[];
}

export function packSpace({ head, meshes }: Space): Uint8Array {
  const text = new TextEncoder().encode(JSON.stringify(head));
  const padded = (4 + text.length + 3) & ~3;
  const size = meshes.reduce((sum, { points, triangles }) => sum + points.byteLength + triangles.byteLength, 0);
  const out = new Uint8Array(padded + size);
  new DataView(out.buffer).setUint32(0, text.length, true);
  out.set(text, 4);
  let at = padded;
  for (const { points, triangles } of meshes)
    for (const { buffer, byteOffset, byteLength } of [points, triangles]) {
      out.set(new Uint8Array(buffer, byteOffset, byteLength), at);
      at += byteLength;
    }
  return out;
}

/** Views on the packed bytes; they must begin at a multiple of four. */
export function unpackSpace(bytes: Uint8Array): Space {
  const length = new DataView(bytes.buffer, bytes.byteOffset).getUint32(0, true);
  const head = headSchema.parse(JSON.parse(new TextDecoder().decode(bytes.subarray(4, 4 + length))));
  let at = bytes.byteOffset + ((4 + length + 3) & ~3);
  const meshes = head.meshes.map((counts): SpaceMesh => {
    const points = new Float32Array(bytes.buffer, at, 3 * counts.points);
    const triangles = new Uint32Array(bytes.buffer, at + points.byteLength, 3 * counts.triangles);
    at += points.byteLength + triangles.byteLength;
    return { points, triangles };
  });
  return { head, meshes };
}

/** From a model's own coordinates to those of a scene that has its origin in the middle of another model. */
export function placingInScene(own: SpaceHead, scene: SpaceHead, laid: Placing = asItStands): Placing {
  const [x = 0, y = 0, z = 0] = own.origin;
  const [sx = 0, sy = 0, sz = 0] = scene.origin;
  return placedWithin(shiftedBy(-sx, -sy, -sz), placedWithin(laid, shiftedBy(x, y, z)));
}

const shiftedBy = (x: number, y: number, z: number): Placing => [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, x, y, z, 1];

/** The surface of a part where it stands in the world, once `laid`; undefined where it has none. */
export function surfaceInSpace({ head, meshes }: Space, part: number, laid: Placing = asItStands): Mesh | undefined {
  const { mesh: index = -1, placing } = head.parts[part] ?? {};
  const mesh = meshes[index];
  if (!mesh) return undefined;
  const [x = 0, y = 0, z = 0] = head.origin;
  const surface = { points: Float64Array.from(mesh.points), triangles: mesh.triangles };
  const inWorld = placedWithin(laid, shiftedBy(x, y, z));
  return placedMesh(surface, placing ? placedWithin(inWorld, placing) : inWorld);
}

export { asItStands, placedWithin, type Placing } from '../../mesh/placing.ts';
export { slicesOf, type Plane } from '../../mesh/slice.ts';
export { boxOfPoints } from '../../mesh/mesh.ts';
