/** Opens containers: deflated members are stored inflated where deflating them again gives the same bytes. */
import { concat } from '../../bytes/concat.ts';
import { crc32 } from '../../bytes/crc32.ts';
import { adler32, inflateAt, SettingsSearch, type DeflateEngine } from './deflate.ts';
import { isPdf, isPng, isZip, placesIn, type StreamPlace } from './members.ts';
import type { DeflateSettings, Segment } from './recipe.ts';

export interface UnpackLimits {
  /** Inflated bytes of one member. */
  readonly member: number;
  /** Inflated bytes of the whole file. */
  readonly total: number;
  /** Bytes that may be deflated in vain while settings are looked for. */
  readonly search: number;
}

export const unpackLimits: UnpackLimits = { member: 96 * 1024 ** 2, total: 384 * 1024 ** 2, search: 96 * 1024 ** 2 };

export interface Unpacked {
  readonly segments: readonly Segment[];
  readonly stream: Uint8Array;
  /** Members that are stored inflated. */
  readonly opened: number;
  /** Members that had to stay as they are. */
  readonly closed: number;
  /** Settings that worked, for the next file of the same program. */
  readonly settings: readonly DeflateSettings[];
}

export const isContainer = (bytes: Uint8Array): boolean => isZip(bytes) || isPng(bytes) || isPdf(bytes);

const DEEPEST = 3;

/** Undefined where nothing could be opened. Never throws on what the bytes are. */
export function unpack(
  bytes: Uint8Array,
  engines: readonly DeflateEngine[],
  hints: readonly DeflateSettings[] = [],
  limits: UnpackLimits = unpackLimits,
): Unpacked | undefined {
  const opener = new Opener(engines, hints, limits);
  const segments = opener.open(bytes, 0);
  if (!opener.opened) return undefined;
  return {
    segments,
    stream: concat(opener.parts),
    opened: opener.opened,
    closed: opener.closed,
    settings: opener.search.worked,
  };
}

class Opener {
  readonly parts: Uint8Array[] = [];
  readonly search: SettingsSearch;
  opened = 0;
  closed = 0;
  private inflated = 0;
  private readonly limits: UnpackLimits;

  constructor(engines: readonly DeflateEngine[], hints: readonly DeflateSettings[], limits: UnpackLimits) {
    this.search = new SettingsSearch(engines, hints, limits.search);
    this.limits = limits;
  }

  open(bytes: Uint8Array, depth: number): Segment[] {
    const out: Segment[] = [];
    let done = 0;
    const raw = (to: number): void => {
      if (to <= done) return;
      this.parts.push(bytes.subarray(done, to));
      const last = out.at(-1);
      if (last?.kind === 'raw') out[out.length - 1] = { kind: 'raw', length: last.length + to - done };
      else out.push({ kind: 'raw', length: to - done });
      done = to;
    };
    for (const place of depth < DEEPEST ? placesIn(bytes) : []) {
      if (place.start < done) continue;
      if (place.kind === 'stored') {
        const inner = bytes.subarray(place.start, place.end);
        if (!isContainer(inner)) continue;
        raw(place.start);
        out.push(...this.open(inner, depth + 1));
        done = place.end;
        continue;
      }
      const member = this.read(bytes, place);
      if (!member) {
        this.closed++;
        continue;
      }
      raw(place.start);
      this.opened++;
      this.inflated += member.data.length;
      const inner = this.open(member.data, depth + 1);
      out.push(member.segment(inner));
      done = place.start + member.span;
    }
    raw(bytes.length);
    return out;
  }

  /** Inflates a member and finds the settings that give it back. */
  private read(
    bytes: Uint8Array,
    place: Exclude<StreamPlace, { kind: 'stored' }>,
  ): { data: Uint8Array; span: number; segment: (inner: Segment[]) => Segment } | undefined {
    const most = Math.min(this.limits.member, this.limits.total - this.inflated);
    if (place.kind === 'deflate') {
      const member = inflateAt(bytes, place.start, place.end, most);
      const settings =
        member && this.search.find(member.data, bytes.subarray(place.start, member.end), place.flevel, false);
      return (
        settings && {
          data: member.data,
          span: member.end - place.start,
          segment: (inner) => ({ kind: 'deflate', settings, size: member.end - place.start, inner }),
        }
      );
    }
    const joined = place.kind === 'idat' ? joinData(bytes, place) : bytes.subarray(place.start, place.end);
    const head = ((joined?.[0] ?? 0) << 8) | (joined?.[1] ?? 0);
    if (!joined || ((head >> 8) & 15) !== 8 || head % 31 !== 0 || head & 32) return undefined;
    const member = inflateAt(joined, 2, joined.length, most);
    if (!member || member.end + 4 > joined.length) return undefined;
    const size = member.end + 4;
    // PNG data end exactly with the last chunk, or the picture stays closed.
    if (place.kind === 'idat' && size !== joined.length) return undefined;
    const sum = adler32(member.data);
    const view = new DataView(joined.buffer, joined.byteOffset + member.end, 4);
    if (view.getUint32(0) !== sum) return undefined;
    const settings = this.search.find(
      member.data,
      joined.subarray(2, member.end),
      (head >> 6) & 3,
      place.kind === 'idat',
    );
    if (!settings) return undefined;
    return {
      data: member.data,
      span: place.kind === 'idat' ? place.end - place.start : size,
      segment: (inner) => ({
        kind: 'zlib',
        head,
        settings,
        size,
        inner,
        ...(place.kind === 'idat' ? { cuts: place.cuts } : {}),
      }),
    };
  }
}

/** The data of IDAT chunks in one; undefined where a check sum is wrong, because it could not be made again. */
function joinData(bytes: Uint8Array, place: Extract<StreamPlace, { kind: 'idat' }>): Uint8Array | undefined {
  const out: Uint8Array[] = [];
  let at = place.start;
  for (const size of place.cuts) {
    const body = bytes.subarray(at + 4, at + 8 + size);
    const sum = new DataView(bytes.buffer, bytes.byteOffset + at + 8 + size, 4).getUint32(0);
    if (crc32(body) !== sum) return undefined;
    out.push(body.subarray(4));
    at += 12 + size;
  }
  return concat(out);
}
