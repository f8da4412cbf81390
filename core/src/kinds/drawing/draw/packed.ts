/**
 * Scenes as bytes: length of the JSON head (u32, little-endian), the head, padding to 4 bytes, then the arrays that the
 * head counts, each padded to 4 bytes.
 */
import type { SceneHead } from './scene-head.ts';

export type { SceneHead } from './scene-head.ts';

export interface Scene {
  readonly head: SceneHead;
  /** x0, y0, x1, y1 of each segment. */
  readonly ends: Float32Array;
  /** How far along its line each segment begins, in design units. */
  readonly along: Float32Array;
  readonly style: Uint16Array;
  readonly part: Uint32Array;
  /** x and y of three corners of each triangle. */
  readonly corners: Float32Array;
  readonly triangleStyle: Uint16Array;
  readonly trianglePart: Uint32Array;
}

const arrays = ['ends', 'along', 'part', 'corners', 'trianglePart', 'style', 'triangleStyle'] as const;

export function packScene(scene: Scene): Uint8Array {
  const head = new TextEncoder().encode(JSON.stringify(scene.head));
  const padded = (4 + head.length + 3) & ~3;
  const out = new Uint8Array(padded + arrays.reduce((sum, name) => sum + ((scene[name].byteLength + 3) & ~3), 0));
  new DataView(out.buffer).setUint32(0, head.length, true);
  out.set(head, 4);
  let at = padded;
  for (const name of arrays) {
    const { buffer, byteOffset, byteLength } = scene[name];
    out.set(new Uint8Array(buffer, byteOffset, byteLength), at);
    at += (byteLength + 3) & ~3;
  }
  return out;
}

/** Views on the packed bytes; they must begin at a multiple of four. */
export function unpackScene(bytes: Uint8Array): Scene {
  const length = new DataView(bytes.buffer, bytes.byteOffset).getUint32(0, true);
  const head = JSON.parse(new TextDecoder().decode(bytes.subarray(4, 4 + length))) as SceneHead;
  let at = (4 + length + 3) & ~3;
  const take = <T>(
    make: (buffer: ArrayBufferLike, from: number, count: number) => T,
    size: number,
    count: number,
  ): T => {
    const view = make(bytes.buffer, bytes.byteOffset + at, count);
    at += (size * count + 3) & ~3;
    return view;
  };
  const floats = (count: number): Float32Array => take((b, f, n) => new Float32Array(b, f, n), 4, count);
  const long = (count: number): Uint32Array => take((b, f, n) => new Uint32Array(b, f, n), 4, count);
  const short = (count: number): Uint16Array => take((b, f, n) => new Uint16Array(b, f, n), 2, count);
  const { segments, triangles } = head;
  return {
    head,
    ends: floats(4 * segments),
    along: floats(segments),
    part: long(segments),
    corners: floats(6 * triangles),
    trianglePart: long(triangles),
    style: short(segments),
    triangleStyle: short(triangles),
  };
}
