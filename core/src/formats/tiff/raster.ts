/**
 * The pixels of a TIFF as they are stored, and a TIFF with others: they and a new directory come to the end of the
 * file, and all bytes before stay, but for the place that names the first directory (TIFF 6.0, section 2).
 */
import { zlibSync } from 'fflate';
import UTIF, { type IFD } from 'utif2';
import { concat } from '../../bytes/concat.ts';
import { hashBytes, hashText } from '../../geometry/hash.ts';
import { ReadError } from '../../model/problem.ts';
import { refuseTooManyPixels, type Raster, type RasterFormat } from '../../model/raster.ts';

const WIDTH = 256;
const HEIGHT = 257;
const BITS = 258;
const COMPRESSION = 259;
const MEANING = 262;
const STRIP_OFFSETS = 273;
const SAMPLES = 277;
const ROWS_PER_STRIP = 278;
const STRIP_SIZES = 279;
const PLANES = 284;
const PREDICTOR = 317;
const COLOURS = 320;
const TILE_WIDTH = 322;
const TILE_SIZES = 325;
const EXTRA = 338;
const SAMPLE_FORMAT = 339;
const PROFILE = 34675;

const DEFLATE = 8;
/** None, LZW, Deflate twice, runs of bytes: what keeps pixels as they are. */
const LOSSLESS: ReadonlySet<number> = new Set([1, 5, DEFLATE, 32773, 32946]);
/** Tags that say where pixels are and how they are packed. */
const isOfPacking = (tag: number): boolean =>
  [COMPRESSION, STRIP_OFFSETS, ROWS_PER_STRIP, STRIP_SIZES, PREDICTOR].includes(tag) ||
  (tag >= TILE_WIDTH && tag <= TILE_SIZES);

const LONG = 4;
const SHORT = 3;
const ENTRY = 12;

const refused = (sentence: string): ReadError => new ReadError(sentence, undefined, 'unsupported');

function onlyOne(bytes: Uint8Array): IFD {
  let directory: IFD | undefined;
  let others: readonly IFD[] = [];
  try {
    [directory, ...others] = UTIF.decode(bufferOf(bytes));
  } catch {
    directory = undefined;
  }
  if (others.length > 0) throw refused('Pictures of several pages are not put together.');
  if (!directory) throw new ReadError('The list of what the picture holds is damaged.');
  return directory;
}

/** The decoder tells the console of every tile; what a command prints is read by programs. */
function quietly(work: () => void): void {
  const { log } = console;
  console.log = () => undefined;
  try {
    work();
  } finally {
    console.log = log;
  }
}

const bufferOf = (bytes: Uint8Array): ArrayBuffer => bytes.slice().buffer;

/** Values of a tag. */
const valuesOf = (directory: IFD, tag: number): readonly number[] => {
  const found: unknown = directory[`t${tag}`];
  return Array.isArray(found) || ArrayBuffer.isView(found) ? Array.from(found as ArrayLike<number>) : [];
};

const numberOf = (directory: IFD, tag: number, otherwise: number): number => valuesOf(directory, tag)[0] ?? otherwise;

interface Shape {
  readonly width: number;
  readonly height: number;
  readonly bits: number;
  readonly stride: number;
  /** Bits of one sample. */
  readonly depth: number;
}

function shapeOf(directory: IFD): Shape {
  if (!LOSSLESS.has(numberOf(directory, COMPRESSION, 1)))
    throw refused('The picture keeps its pixels only nearly as they were, so they are not put together.');
  if (numberOf(directory, PLANES, 1) !== 1 && numberOf(directory, SAMPLES, 1) > 1)
    throw refused('Pictures that are stored colour by colour are not put together.');
  const [width, height] = [numberOf(directory, WIDTH, 0), numberOf(directory, HEIGHT, 0)];
  refuseTooManyPixels(width, height);
  const depth = numberOf(directory, BITS, 1);
  const bits = depth * numberOf(directory, SAMPLES, 1);
  return { width, height, bits, depth, stride: Math.ceil((width * bits) / 8) };
}

function read(bytes: Uint8Array): Raster {
  const directory = onlyOne(bytes);
  const { width, height, bits, stride } = shapeOf(directory);
  try {
    quietly(() => UTIF.decodeImage(bufferOf(bytes), directory));
  } catch {
    throw new ReadError('The pixels of the picture are damaged.');
  }
  const rows = new Uint8Array(directory.data).slice(0, stride * height);
  if (rows.length < stride * height) throw new ReadError('The pixels of the picture are cut off.');
  const said = [BITS, MEANING, SAMPLES, COLOURS, EXTRA, SAMPLE_FORMAT].map((tag) => valuesOf(directory, tag).join(' '));
  const profile = hashBytes(Uint8Array.from(valuesOf(directory, PROFILE)));
  return { width, height, bits, stride, rows, meaning: hashText([...said, profile].join('\n')) };
}

function write(bytes: Uint8Array, rows: Uint8Array): Uint8Array {
  const { height, depth } = shapeOf(onlyOne(bytes));
  const isLittle = bytes[0] === 0x49;
  const stored = depth === 16 && !isLittle ? swapped(rows) : rows;
  const pixels = zlibSync(stored);
  const pad = new Uint8Array(bytes.length % 2);
  const pixelsAt = bytes.length + pad.length;
  const padAfter = new Uint8Array(pixels.length % 2);
  const directoryAt = pixelsAt + pixels.length + padAfter.length;
  const ownEntries = [
    [COMPRESSION, SHORT, DEFLATE],
    [STRIP_OFFSETS, LONG, pixelsAt],
    [ROWS_PER_STRIP, LONG, height],
    [STRIP_SIZES, LONG, pixels.length],
    [PREDICTOR, SHORT, 1],
  ] as const;
  const directory = newDirectory(bytes, isLittle, ownEntries);
  const out = concat([bytes, pad, pixels, padAfter, directory]);
  new DataView(out.buffer).setUint32(4, directoryAt, isLittle);
  return out;
}

type OwnEntry = readonly [tag: number, type: number, value: number];

/** The first directory with other entries for how pixels are packed; what it names elsewhere stays where it is. */
function newDirectory(bytes: Uint8Array, isLittle: boolean, own: readonly OwnEntry[]): Uint8Array {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const at = view.getUint32(4, isLittle);
  const count = view.getUint16(at, isLittle);
  const entries = new Map<number, Uint8Array>();
  for (let k = 0; k < count; k++) {
    const start = at + 2 + ENTRY * k;
    const tag = view.getUint16(start, isLittle);
    if (!isOfPacking(tag)) entries.set(tag, bytes.subarray(start, start + ENTRY));
  }
  for (const [tag, type, value] of own) {
    const entry = new DataView(new ArrayBuffer(ENTRY));
    entry.setUint16(0, tag, isLittle);
    entry.setUint16(2, type, isLittle);
    entry.setUint32(4, 1, isLittle);
    if (type === SHORT) entry.setUint16(8, value, isLittle);
    else entry.setUint32(8, value, isLittle);
    entries.set(tag, new Uint8Array(entry.buffer));
  }
  const sorted = [...entries].sort(([a], [b]) => a - b).map(([, entry]) => entry);
  const head = new Uint8Array(2);
  new DataView(head.buffer).setUint16(0, sorted.length, isLittle);
  const nextAt = at + 2 + ENTRY * count;
  return concat([head, ...sorted, bytes.subarray(nextAt, nextAt + 4)]);
}

function swapped(rows: Uint8Array): Uint8Array {
  const out = new Uint8Array(rows.length);
  for (let k = 0; k + 1 < rows.length; k += 2) {
    out[k] = rows[k + 1] as number;
    out[k + 1] = rows[k] as number;
  }
  return out;
}

export const tiffRaster: RasterFormat = { read, write };
