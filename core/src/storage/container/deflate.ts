/** Deflate (RFC 1951) that can be repeated: finds the settings which give exactly the same bytes again. */
import pako from 'pako';
import { concat } from '../../bytes/concat.ts';
import type { DeflateSettings } from './recipe.ts';

/** An implementation of deflate whose output for given settings never changes. */
export interface DeflateEngine {
  readonly id: string;
  /** A raw deflate stream; undefined as soon as it differs from `expected`, where that is given. */
  deflate(bytes: Uint8Array, settings: Omit<DeflateSettings, 'engine'>, expected?: Uint8Array): Uint8Array | undefined;
}

const PIECE = 1 << 16;
const { constants } = pako;
const strategies = [
  constants.Z_DEFAULT_STRATEGY,
  constants.Z_FILTERED,
  constants.Z_HUFFMAN_ONLY,
  constants.Z_RLE,
  constants.Z_FIXED,
] as const;

/** Levels that a ZIP entry may have been packed with, by what its flags say; likely ones first. */
const levelsBy: readonly (readonly number[])[] = [[1], [5, 4, 3, 2], [6], [9, 8, 7]];
const anyLevel: readonly number[] = [6, 9, 5, 1, 8, 7, 4, 3, 2];

class Differs extends Error {}

/** The same bytes as zlib itself, which most programs use. Its major version is part of the recipe. */
export const zlibEngine: DeflateEngine = {
  id: 'zlib/pako2',
  deflate(bytes, { level, memory, strategy }, expected) {
    const deflator = new pako.Deflate({
      level: level as 6,
      memLevel: memory,
      strategy: strategies[strategy] ?? pako.constants.Z_DEFAULT_STRATEGY,
      windowBits: 15,
      raw: true,
      chunkSize: PIECE,
    });
    const out: Uint8Array[] = [];
    let size = 0;
    deflator.onData = (piece) => {
      const part = piece as Uint8Array;
      if (expected && !startsAt(expected, size, part)) throw new Differs();
      size += part.length;
      if (!expected) out.push(part);
    };
    deflator.onEnd = () => undefined;
    try {
      // In pieces, so that a wrong guess ends early.
      for (let at = 0; at < bytes.length || at === 0; at += PIECE)
        deflator.push(bytes.subarray(at, at + PIECE), at + PIECE >= bytes.length);
    } catch (error) {
      if (error instanceof Differs) return undefined;
      throw error;
    }
    if (expected) return size === expected.length ? expected : undefined;
    return concat(out, size);
  },
};

function startsAt(whole: Uint8Array, at: number, part: Uint8Array): boolean {
  if (at + part.length > whole.length) return false;
  for (let i = 0; i < part.length; i++) if (whole[at + i] !== part[i]) return false;
  return true;
}

class TooMuch extends Error {}

/**
 * What a raw deflate stream at `start` holds and where it ends; undefined where it is none, or holds more than `most`
 * bytes.
 */
export function inflateAt(
  bytes: Uint8Array,
  start: number,
  end: number,
  most: number,
): { data: Uint8Array; end: number } | undefined {
  const inflator = new pako.Inflate({ raw: true, chunkSize: PIECE });
  const out: Uint8Array[] = [];
  let size = 0;
  inflator.onData = (piece) => {
    const part = piece as Uint8Array;
    size += part.length;
    if (size > most) throw new TooMuch();
    out.push(part);
  };
  let ended: number | undefined;
  inflator.onEnd = (status) => {
    ended = status;
  };
  try {
    inflator.push(bytes.subarray(start, end), true);
  } catch (error) {
    if (error instanceof TooMuch) return undefined;
    throw error;
  }
  // Without an end that is in order, the stream is cut off or none.
  if (ended !== 0) return undefined;
  return {
    data: concat(out, size),
    end: start + (inflator as unknown as { strm: { total_in: number } }).strm.total_in,
  };
}

/** Likely settings first: those that worked for the same program, then what the level hint of the header allows. */
export class SettingsSearch {
  private readonly recent: DeflateSettings[];
  private readonly engines: readonly DeflateEngine[];
  private readonly hinted: number;
  private readonly misses = new Map<string, number>();
  /** Bytes that may still be deflated in vain. */
  private budget: number;

  constructor(engines: readonly DeflateEngine[], hints: readonly DeflateSettings[], budget: number) {
    this.engines = engines;
    this.recent = [...hints];
    this.hinted = hints.length;
    this.budget = budget;
  }

  /** Settings that worked, latest first. */
  get worked(): readonly DeflateSettings[] {
    return this.recent.slice(0, 8);
  }

  /** `flevel` is the two-bit level hint of zlib's header or ZIP's flags (0 fastest … 3 best), where there is one. */
  find(
    data: Uint8Array,
    deflated: Uint8Array,
    flevel: number | undefined,
    filtered: boolean,
  ): DeflateSettings | undefined {
    for (const settings of this.candidates(flevel, filtered)) {
      if (this.budget <= 0) return undefined;
      const engine = this.engines.find((e) => e.id === settings.engine);
      if (!engine) continue;
      if (engine.deflate(data, settings, deflated)) {
        this.remember(settings);
        return settings;
      }
      // A wrong guess mostly ends within its first pieces.
      this.budget -= Math.min(data.length, 2 * PIECE);
      const key = keyOf(settings);
      this.misses.set(key, (this.misses.get(key) ?? 0) + 1);
    }
    return undefined;
  }

  private *candidates(flevel: number | undefined, filtered: boolean): Generator<DeflateSettings> {
    const given = new Set<string>();
    const fresh = (s: DeflateSettings): boolean => !given.has(keyOf(s)) && Boolean(given.add(keyOf(s)));
    for (const s of [...this.recent]) if (fresh(s)) yield s;
    const levels = levelsBy[flevel ?? -1] ?? anyLevel;
    for (const engine of this.engines) {
      for (const strategy of filtered ? [1, 0, 3, 2] : [0, 1]) {
        for (const memory of [8, 9]) {
          for (const level of levels) {
            const s = { engine: engine.id, level, memory, strategy };
            // A setting that never fitted this file is left out after a while.
            if ((this.misses.get(keyOf(s)) ?? 0) < 6 && fresh(s)) yield s;
          }
        }
      }
    }
  }

  private remember(settings: DeflateSettings): void {
    const key = keyOf(settings);
    const at = this.recent.findIndex((s) => keyOf(s) === key);
    if (at >= 0) this.recent.splice(at, 1);
    this.recent.unshift(settings);
  }
}

const keyOf = (s: DeflateSettings): string => `${s.engine} ${s.level} ${s.memory} ${s.strategy}`;

/** Adler-32 (RFC 1950). */
export function adler32(bytes: Uint8Array): number {
  let a = 1;
  let b = 0;
  for (let i = 0; i < bytes.length;) {
    const stop = Math.min(i + 3800, bytes.length);
    for (; i < stop; i++) {
      a += bytes[i] as number;
      b += a;
    }
    a %= 65521;
    b %= 65521;
  }
  return ((b << 16) | a) >>> 0;
}
