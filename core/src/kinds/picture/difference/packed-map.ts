/**
 * The differences of two pictures' squares as bytes: first what is seen, then what goes beyond noise, each 0.4 of
 * CIEDE2000 a step.
 */
import type { DifferenceMap } from './difference-map.ts';
import type { MapForRegions } from './regions.ts';

/** Taken out of their object once: they are called for every pixel. */
const { floor, min, round } = Math;

const STEP = 0.4;

export function packMap({ plain, beyond }: Pick<DifferenceMap, 'plain' | 'beyond'>): Uint8Array {
  const out = new Uint8Array(2 * plain.length);
  for (let i = 0; i < plain.length; i++) {
    out[i] = min(255, round((plain[i] as number) / STEP));
    // Rounded down, so that nothing passes a threshold that it did not reach.
    out[plain.length + i] = min(255, floor((beyond[i] as number) / STEP + 1e-4));
  }
  return out;
}

/** Throws for bytes that are no such map. */
export function unpackMap(bytes: Uint8Array, columns: number, rows: number, noise: number): MapForRegions {
  const n = columns * rows;
  if (bytes.length !== 2 * n) throw new Error('The map of differences is damaged.');
  const of = (from: number): Float32Array => Float32Array.from(bytes.subarray(from, from + n), (v) => v * STEP);
  return { columns, rows, plain: of(0), beyond: of(n), noise };
}
