/**
 * The noise that two pictures have anyway: told from the squares that are as busy and as light, and from those nearby.
 */
import { THRESHOLD } from './difference-map.ts';

/** Taken out of their object once: they are called for every square. */
const { ceil, floor, log2, max, min } = Math;
const { isNaN } = Number;

const LEVELS = 20;
/** How many times beyond the usual spread of noise a difference must be. */
const REACH = 5;

/** Levels of business, times levels of lightness: dark colours are noisier. */
const LIGHTS = 5;
const levelOf = (busy: number, light: number): number =>
  min(LEVELS - 1, floor(3 * log2(1 + busy))) + LEVELS * min(LIGHTS - 1, floor(light / 20));
/** Squares of each level that are looked at. */
const SAMPLE = 4096;
/** Fewer tell nothing: noise is then taken from busier squares, which have at least as much. */
const FEW = 80;

/** The bound of noise for each level of business. */
function boundsBy(listOf: (level: number) => readonly number[], enough: (level: number) => boolean): Float32Array {
  const out = new Float32Array(LEVELS).fill(NaN);
  let busier = Infinity;
  for (let k = LEVELS - 1; k >= 0; k--) {
    const list = Float32Array.from(listOf(k)).sort();
    const at = (share: number): number => list[floor(share * list.length)] ?? 0;
    // A calm place that differs more than busy ones was edited.
    if (list.length >= FEW && enough(k))
      busier = min(busier, at(0.5) + REACH * max(at(0.75) - at(0.5), at(0.5) - at(0.25)));
    if (busier < Infinity) out[k] = busier;
  }
  // The busiest, too few for a level of their own, are as the next.
  let known = 0;
  for (let k = 0; k < LEVELS; k++) {
    if (isNaN(out[k])) out[k] = known * 1.5;
    else known = out[k] ?? 0;
  }
  return out;
}

/** Squares across a tile within which noise is taken to be alike. */
const TILE = 24;

/** The same bound, by place: for each tile of squares, from every fourth of them. */
function localBounds(plain: Float32Array, shared: Uint8Array, columns: number, rows: number): Float32Array {
  const across = ceil(columns / TILE);
  const down = ceil(rows / TILE);
  const out = new Float32Array(across * down);
  const list = new Float32Array(TILE * TILE);
  for (let ty = 0; ty < down; ty++) {
    for (let tx = 0; tx < across; tx++) {
      let n = 0;
      for (let y = ty * TILE; y < min(rows, (ty + 1) * TILE); y++) {
        for (let x = tx * TILE + (y & 3), x1 = min(columns, (tx + 1) * TILE); x < x1; x += 4)
          if (shared[y * columns + x]) list[n++] = plain[y * columns + x] as number;
      }
      const sorted = list.subarray(0, n).sort();
      const at = (share: number): number => sorted[floor(share * n)] ?? 0;
      out[ty * across + tx] = at(0.5) + REACH * max(at(0.75) - at(0.5), at(0.5) - at(0.25));
    }
  }
  return out;
}

/** For each square its level, by how busy and how light it is. */
export function levelsOf(busy: Float32Array, light: Float32Array): Uint8Array {
  const out = new Uint8Array(busy.length);
  for (let i = 0; i < out.length; i++) out[i] = levelOf(busy[i] as number, light[i] as number);
  return out;
}

/** About as many differences of each kind of square, evenly; `all` counts the squares of each kind. */
function sampledBy(
  plain: Float32Array,
  kindOf: Uint8Array,
  shared: Uint8Array,
  kinds: number,
  all: ArrayLike<number>,
): number[][] {
  const seen = new Uint32Array(kinds);
  const lists: number[][] = Array.from({ length: kinds }, () => []);
  const strides = Array.from(all, (n) => max(1, ceil(n / SAMPLE)));
  for (let i = 0; i < plain.length; i++) {
    const k = kindOf[i] as number;
    if (!shared[i]) continue;
    const n = (seen[k] as number) + 1;
    seen[k] = n;
    if (n % (strides[k] as number) === 0) lists[k]?.push(plain[i] as number);
  }
  return lists;
}

/** The usual differences of squares that are as busy and as light, and what goes beyond them. */
export function beyondNoise(
  plain: Float32Array,
  levels: Uint8Array,
  shared: Uint8Array,
  columns: number,
  rows: number,
): Float32Array {
  const kinds = LEVELS * LIGHTS;
  const all = new Uint32Array(kinds);
  const bounds = new Float32Array(kinds);
  for (let i = 0; i < plain.length; i++)
    if (shared[i]) all[levels[i] as number] = (all[levels[i] as number] as number) + 1;
  const total = all.reduce((n, v) => n + v, 0);
  const alike = Float32Array.from({ length: LEVELS }, (_, k) =>
    all.reduce((n, v, level) => (level % LEVELS === k ? n + v : n), 0),
  );
  const lists = sampledBy(plain, levels, shared, kinds, all);
  const together = sampledBy(
    plain,
    levels.map((level) => level % LEVELS),
    shared,
    LEVELS,
    alike,
  );
  const whole = boundsBy(
    (k) => together[k] ?? [],
    () => true,
  );
  for (let l = 0; l < LIGHTS; l++) {
    const own = boundsBy(
      (k) => lists[l * LEVELS + k] ?? [],
      (k) => (all[l * LEVELS + k] as number) >= 0.0005 * total,
    );
    // A lightness that only an edit has would otherwise explain itself.
    for (let k = 0; k < LEVELS; k++) bounds[l * LEVELS + k] = min(own[k] || whole[k] || 0, 2 * (whole[k] ?? 0));
  }
  const beyond = new Float32Array(plain.length);
  const local = localBounds(plain, shared, columns, rows);
  const across = ceil(columns / TILE);
  for (let y = 0, i = 0; y < rows; y++) {
    for (let x = 0, tile = floor(y / TILE) * across; x < columns; tile++) {
      const here = local[tile] as number;
      for (const end = min(columns, x + TILE); x < end; x++, i++) {
        if (!shared[i]) continue;
        // What is usual here, but not so much that a large change explains itself.
        const general = bounds[levels[i] as number] as number;
        const bound = min(max(here, general * 0.8), general * 2);
        const v = plain[i] as number;
        // As many thresholds as it is times the bound.
        beyond[i] = bound > THRESHOLD ? (v / bound) * THRESHOLD : v;
      }
    }
  }
  return beyond;
}
