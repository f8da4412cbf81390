/**
 * Where deflated data lie in ZIP files, PNG pictures and PDF documents. Nothing here trusts a size that the file
 * claims.
 */

/** A stretch of a file that may be opened; stretches never overlap. */
export type StreamPlace =
  /** Raw deflate of a ZIP member, at most up to `end`. */
  | { readonly kind: 'deflate'; readonly start: number; readonly end: number; readonly flevel: number | undefined }
  /** A ZIP member that is stored as it is: it may be a container itself. */
  | { readonly kind: 'stored'; readonly start: number; readonly end: number }
  /** A zlib stream that begins at `start` and ends at or before `end`. */
  | { readonly kind: 'zlib'; readonly start: number; readonly end: number }
  /** PNG's run of IDAT chunks; `cuts` are the sizes of their data. */
  | { readonly kind: 'idat'; readonly start: number; readonly end: number; readonly cuts: readonly number[] };

/** Members that are looked at in one file. */
const MOST_PLACES = 20_000;

function streamsOf(bytes: Uint8Array): StreamPlace[] {
  if (isZip(bytes)) return zipMembers(bytes);
  if (isPng(bytes)) return pngData(bytes);
  return isPdf(bytes) ? pdfStreams(bytes) : [];
}

export function placesIn(bytes: Uint8Array): StreamPlace[] {
  const found = streamsOf(bytes);
  found.sort((a, b) => a.start - b.start || b.end - a.end);
  const out: StreamPlace[] = [];
  for (const place of found) {
    // Entries that overlap are a trick: the later one stays closed.
    if (place.start >= (out.at(-1)?.end ?? 0) && place.end <= bytes.length && place.end > place.start) out.push(place);
    if (out.length === MOST_PLACES) break;
  }
  return out;
}

const u16 = (b: Uint8Array, i: number): number => (b[i] as number) | ((b[i + 1] as number) << 8);
const u32 = (b: Uint8Array, i: number): number => (u16(b, i) | (u16(b, i + 2) << 16)) >>> 0;
const u32be = (b: Uint8Array, i: number): number =>
  (((b[i] as number) << 24) | ((b[i + 1] as number) << 16) | ((b[i + 2] as number) << 8) | (b[i + 3] as number)) >>> 0;

export const isZip = (b: Uint8Array): boolean => b.length > 22 && u32(b, 0) === 0x04034b50;
export const isPng = (b: Uint8Array): boolean =>
  b.length > 45 && u32be(b, 0) === 0x89504e47 && u32be(b, 4) === 0x0d0a1a0a;
export const isPdf = (b: Uint8Array): boolean =>
  b.length > 8 && b[0] === 0x25 && b[1] === 0x50 && b[2] === 0x44 && b[3] === 0x46 && b[4] === 0x2d;

/** Members by the central directory (APPNOTE 4.3.12), with their place from the local headers. */
function zipMembers(b: Uint8Array): StreamPlace[] {
  let end = b.length - 22;
  const lowest = Math.max(0, end - 65_535);
  while (end >= lowest && u32(b, end) !== 0x06054b50) end--;
  if (end < lowest) return [];
  const out: StreamPlace[] = [];
  let at = u32(b, end + 16);
  for (
    let k = u16(b, end + 10);
    k > 0 && at + 46 <= b.length && u32(b, at) === 0x02014b50 && out.length < MOST_PLACES;
    k--
  ) {
    const flags = u16(b, at + 8);
    const method = u16(b, at + 10);
    const size = u32(b, at + 20);
    const local = u32(b, at + 42);
    at += 46 + u16(b, at + 28) + u16(b, at + 30) + u16(b, at + 32);
    // Encrypted members and sizes beyond 4 GB stay closed.
    if (flags & 1 || size === 0xffffffff || local + 30 > b.length || u32(b, local) !== 0x04034b50) continue;
    const start = local + 30 + u16(b, local + 26) + u16(b, local + 28);
    if (method === 8) {
      const speed = (flags >> 1) & 3;
      // Bits 1 and 2: normal, maximum, fast, super fast; normal is also what is left when nobody sets them.
      out.push({
        kind: 'deflate',
        start,
        end: start + size,
        flevel: [undefined, 3, 1, 0][speed],
      });
    } else if (method === 0) out.push({ kind: 'stored', start, end: start + size });
  }
  return out;
}

/** The first unbroken run of IDAT chunks (PNG, third edition, 11.2.4). */
function pngData(b: Uint8Array): StreamPlace[] {
  let at = 8;
  const cuts: number[] = [];
  let start = 0;
  while (at + 12 <= b.length) {
    const size = u32be(b, at);
    const isData = u32be(b, at + 4) === 0x49444154;
    if (at + 12 + size > b.length) break;
    if (isData && !cuts.length) start = at;
    if (isData) cuts.push(size);
    else if (cuts.length) break;
    at += 12 + size;
  }
  return cuts.length ? [{ kind: 'idat', start, end: at, cuts }] : [];
}

/** Streams with FlateDecode (ISO 32000-1, 7.3.8), found by their keywords, which also works for damaged files. */
function pdfStreams(b: Uint8Array): StreamPlace[] {
  const out: StreamPlace[] = [];
  for (let i = 0; i + 9 < b.length && out.length < MOST_PLACES; i++) {
    // s t r e a m, and a line end; "endstream" is passed over because of the byte before.
    if (
      b[i] !== 0x73 ||
      b[i + 1] !== 0x74 ||
      b[i + 2] !== 0x72 ||
      b[i + 3] !== 0x65 ||
      b[i + 4] !== 0x61 ||
      b[i + 5] !== 0x6d ||
      b[i - 1] === 0x64
    )
      continue;
    let start = i + 6;
    if (b[start] === 0x0d) start++;
    if (b[start] === 0x0a) start++;
    const cmf = b[start] ?? 0;
    const flg = b[start + 1] ?? 0;
    if ((cmf & 15) === 8 && cmf >> 4 <= 7 && ((cmf << 8) | flg) % 31 === 0 && !(flg & 32)) {
      out.push({ kind: 'zlib', start, end: endOfStream(b, start) });
      i = out.at(-1)?.end ?? i;
    } else i = start - 1;
  }
  return out;
}

/** Offset of the next "endstream". */
function endOfStream(b: Uint8Array, from: number): number {
  for (let i = from; i + 9 <= b.length; i++) {
    if (
      b[i] === 0x65 &&
      b[i + 1] === 0x6e &&
      b[i + 2] === 0x64 &&
      b[i + 3] === 0x73 &&
      b[i + 4] === 0x74 &&
      b[i + 5] === 0x72 &&
      b[i + 8] === 0x6d
    )
      return i;
  }
  return b.length;
}
