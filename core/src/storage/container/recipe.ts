/** How a content is put together again from its opened stream. Part of the stored format. */

/** Settings of zlib's deflate, and which implementation of it gave the same bytes. */
export interface DeflateSettings {
  readonly engine: string;
  /** 1 to 9. */
  readonly level: number;
  /** 8 or 9; more is seldom used. */
  readonly memory: number;
  /** 0 default, 1 filtered, 2 Huffman only, 3 run lengths, 4 fixed. */
  readonly strategy: number;
}

export type Segment =
  /** Bytes as they are. */
  | { readonly kind: 'raw'; readonly length: number }
  /** A raw deflate stream of `size` bytes; `inner` describes what it holds. */
  | {
      readonly kind: 'deflate';
      readonly settings: DeflateSettings;
      readonly size: number;
      readonly inner: readonly Segment[];
    }
  /**
   * A zlib stream (RFC 1950) with its two head bytes; where `cuts` is given, spread over PNG's IDAT chunks of these
   * sizes.
   */
  | {
      readonly kind: 'zlib';
      readonly head: number;
      readonly settings: DeflateSettings;
      readonly size: number;
      readonly inner: readonly Segment[];
      readonly cuts?: readonly number[];
    };

type Packed = number | readonly [0 | 1, number, number, readonly Packed[], number?, (readonly number[])?];

/**
 * Compact JSON: settings once, then segments; a number is a raw length, an array [kind, settings, size, inner, head,
 * cuts].
 */
export function packRecipe(segments: readonly Segment[]): string {
  const settings: DeflateSettings[] = [];
  const known = new Map<string, number>();
  const indexOf = (s: DeflateSettings): number => {
    const key = `${s.engine} ${s.level} ${s.memory} ${s.strategy}`;
    const at = known.get(key) ?? settings.push(s) - 1;
    known.set(key, at);
    return at;
  };
  const pack = (s: Segment): Packed => {
    if (s.kind === 'raw') return s.length;
    const inner = s.inner.map(pack);
    if (s.kind === 'deflate') return [0, indexOf(s.settings), s.size, inner];
    return s.cuts
      ? [1, indexOf(s.settings), s.size, inner, s.head, runs(s.cuts)]
      : [1, indexOf(s.settings), s.size, inner, s.head];
  };
  const packed = segments.map(pack);
  return JSON.stringify([settings.map((s) => [s.engine, s.level, s.memory, s.strategy]), packed]);
}

export function unpackRecipe(text: string): Segment[] {
  const [settings, packed] = JSON.parse(text) as [[string, number, number, number][], Packed[]];
  const named = settings.map(([engine, level, memory, strategy]): DeflateSettings => ({
    engine,
    level,
    memory,
    strategy,
  }));
  const unpack = (p: Packed): Segment => {
    if (typeof p === 'number') return { kind: 'raw', length: p };
    const [kind, index, size, inner, head, cuts] = p;
    const chosen = named[index];
    if (!chosen) throw new RangeError('A recipe names settings that it does not have.');
    const segments = inner.map(unpack);
    if (kind === 0) return { kind: 'deflate', settings: chosen, size, inner: segments };
    return {
      kind: 'zlib',
      head: head ?? 0x789c,
      settings: chosen,
      size,
      inner: segments,
      ...(cuts ? { cuts: unrun(cuts) } : {}),
    };
  };
  return packed.map(unpack);
}

/** Equal numbers in a row, as number and count. */
function runs(values: readonly number[]): number[] {
  const out: number[] = [];
  for (const v of values) {
    if (out.at(-2) === v) out[out.length - 1] = (out[out.length - 1] as number) + 1;
    else out.push(v, 1);
  }
  return out;
}

function unrun(packed: readonly number[]): number[] {
  const out: number[] = [];
  for (let i = 0; i + 1 < packed.length; i += 2)
    for (let k = packed[i + 1] as number; k > 0; k--) out.push(packed[i] as number);
  return out;
}

/** Bytes of the content that a segment stands for. */
export const sizeOf = (s: Segment): number => {
  if (s.kind === 'raw') return s.length;
  if (s.kind === 'deflate') return s.size;
  return s.size + (s.cuts ? s.cuts.length * 12 : 0);
};

/** Bytes of the opened stream that a segment takes. */
export const innerSize = (s: Segment): number =>
  s.kind === 'raw' ? s.length : s.inner.reduce((n, i) => n + innerSize(i), 0);
