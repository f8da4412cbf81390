/** The pixels of a PNG as they are stored, and a PNG with others (W3C PNG, third edition, 5 and 9). */
import { unzlibSync, zlibSync } from 'fflate';
import { concat } from '../../bytes/concat.ts';
import { hashBytes } from '../../geometry/hash.ts';
import { ReadError } from '../../model/problem.ts';
import { refuseTooManyPixels, type Raster, type RasterFormat } from '../../model/raster.ts';
import { crc32 } from '../../bytes/crc32.ts';
import { filtered, unfiltered } from './filters.ts';

const SIGNATURE = 8;
/** Of a chunk: length, type and check. */
const AROUND = 12;
const PIXELS = 'IDAT';
/** Channels by colour type. */
const channels: Readonly<Record<number, number>> = { 0: 1, 2: 3, 3: 1, 4: 2, 6: 4 };
/** Chunks that say what the numbers mean. */
const MEANING: ReadonlySet<string> = new Set(['PLTE', 'tRNS', 'iCCP', 'sRGB', 'gAMA', 'cHRM', 'cICP', 'sBIT']);

interface Chunk {
  readonly type: string;
  readonly data: Uint8Array;
  /** With its length, type and check. */
  readonly whole: Uint8Array;
}

function chunksOf(bytes: Uint8Array): Chunk[] {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const found: Chunk[] = [];
  let at = SIGNATURE;
  while (at + AROUND <= bytes.length) {
    const length = view.getUint32(at);
    const end = at + AROUND + length;
    if (end > bytes.length) throw new ReadError('The picture is cut off.', at);
    const type = String.fromCharCode(...bytes.subarray(at + 4, at + 8));
    found.push({ type, data: bytes.subarray(at + 8, at + 8 + length), whole: bytes.subarray(at, end) });
    at = end;
  }
  return found;
}

interface Header {
  readonly width: number;
  readonly height: number;
  readonly depth: number;
  readonly colours: number;
}

function headerOf([first]: readonly Chunk[]): Header {
  if (first?.type !== 'IHDR' || first.data.length < 13)
    throw new ReadError('The picture does not say how large it is.');
  const view = new DataView(first.data.buffer, first.data.byteOffset);
  if (first.data[12] !== 0)
    throw new ReadError('Pictures that are stored interlaced are not put together.', undefined, 'unsupported');
  const [width, height] = [view.getUint32(0), view.getUint32(4)];
  refuseTooManyPixels(width, height);
  return {
    width,
    height,
    depth: view.getUint8(8),
    colours: view.getUint8(9),
  };
}

function read(bytes: Uint8Array): Raster {
  const chunks = chunksOf(bytes);
  const { width, height, depth, colours } = headerOf(chunks);
  const bits = depth * (channels[colours] ?? 0);
  if (bits === 0) throw new ReadError('The picture is stored in a way that Ovrel does not know.');
  const stride = Math.ceil((width * bits) / 8);
  const packed = concat(chunks.flatMap((c) => (c.type === PIXELS ? [c.data] : [])));
  const rows = unfiltered(inflated(packed, height * (stride + 1)), stride, height, bits);
  const said = chunks.flatMap((c) => (MEANING.has(c.type) ? [`${c.type} ${hashBytes(c.data)}`] : []));
  return { width, height, bits, stride, rows, meaning: [`${colours} ${depth}`, ...said].join('\n') };
}

/** Not more than was said: few bytes may hold endless ones. */
function inflated(packed: Uint8Array, size: number): Uint8Array {
  try {
    const out = unzlibSync(packed, { out: new Uint8Array(size) });
    if (out.length === size) return out;
  } catch {
    // Said below, as for what is too short.
  }
  throw new ReadError('The pixels of the picture are damaged.');
}

function write(bytes: Uint8Array, rows: Uint8Array): Uint8Array {
  const chunks = chunksOf(bytes);
  const { width, depth, colours } = headerOf(chunks);
  const bits = depth * (channels[colours] ?? 0);
  const stride = Math.ceil((width * bits) / 8);
  const pixels = chunkOf(PIXELS, zlibSync(filtered(rows, stride, bits, colours === 3 || depth < 8)));
  const first = chunks.findIndex((c) => c.type === PIXELS);
  const pieces = chunks.flatMap((c, k) => {
    if (c.type !== PIXELS) return [c.whole];
    return k === first ? [pixels] : [];
  });
  return concat([bytes.subarray(0, SIGNATURE), ...pieces]);
}

function chunkOf(type: string, data: Uint8Array): Uint8Array {
  const out = new Uint8Array(data.length + AROUND);
  const view = new DataView(out.buffer);
  view.setUint32(0, data.length);
  out.set(new TextEncoder().encode(type), 4);
  out.set(data, 8);
  view.setUint32(8 + data.length, crc32(out.subarray(4, 8 + data.length)));
  return out;
}

export const pngRaster: RasterFormat = { read, write };
