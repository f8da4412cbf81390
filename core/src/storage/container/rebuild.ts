/** Puts a content together again from its opened stream, piece by piece. */
import { concat } from '../../bytes/concat.ts';
import { crc32 } from '../../bytes/crc32.ts';
import { adler32 } from './deflate.ts';
import type { DeflateSettings, Segment } from './recipe.ts';

/** Gives the next bytes of the opened stream, at most `most`, never none before its end. */
export type Take = (most: number) => Promise<Uint8Array>;
export type Deflate = (bytes: Uint8Array, settings: DeflateSettings) => Promise<Uint8Array>;

const PIECE = 1 << 20;
const IDAT = Uint8Array.of(0x49, 0x44, 0x41, 0x54);

export async function* rebuild(
  segments: readonly Segment[],
  take: Take,
  deflate: Deflate,
): AsyncGenerator<Uint8Array, void> {
  for (const segment of segments) {
    if (segment.kind === 'raw') {
      for (let left = segment.length; left > 0;) {
        const piece = await take(Math.min(left, PIECE));
        if (!piece.length) throw new RangeError('The opened stream of a container is too short.');
        left -= piece.length;
        yield piece;
      }
      continue;
    }
    const parts: Uint8Array[] = [];
    for await (const piece of rebuild(segment.inner, take, deflate)) parts.push(piece);
    const data = concat(parts);
    const sum = new Uint8Array(4);
    new DataView(sum.buffer).setUint32(0, segment.kind === 'zlib' ? adler32(data) : 0);
    // The data may be given away to a thread here.
    const deflated = await deflate(data, segment.settings);
    if (segment.kind === 'deflate') {
      yield deflated;
      continue;
    }
    const whole = concat([Uint8Array.of(segment.head >> 8, segment.head & 255), deflated, sum]);
    if (!segment.cuts) {
      yield whole;
      continue;
    }
    let at = 0;
    for (const size of segment.cuts) {
      yield idat(whole.subarray(at, at + size));
      at += size;
    }
  }
}

function idat(data: Uint8Array): Uint8Array {
  const out = new Uint8Array(12 + data.length);
  const view = new DataView(out.buffer);
  view.setUint32(0, data.length);
  out.set(IDAT, 4);
  out.set(data, 8);
  view.setUint32(8 + data.length, crc32(IDAT, data));
  return out;
}
