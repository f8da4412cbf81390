/**
 * Edges that are only drawn otherwise. Whoever resizes, turns, sharpens or compresses a picture leaves differences at
 * its edges, in proportion to how strong these are, and around them where blocks are compressed. How much that is,
 * the edges of the pair tell themselves.
 */
import { THRESHOLD, type DifferenceMap } from './difference-map.ts';

/** Taken out of their object once: they are called for every square. */
const { floor, max, min, sqrt } = Math;

/** Squares around that an edge is looked for in; and those that a compressed block reaches. */
const NEAR = 1;
const AROUND = 4;
/** Steps of colour (of lightness, and half of those of a* and b*) that are edges. */
const STRONG = 10;
/** Share of a step by which edges differ at the most that are the same; what nobody sees; and the same around them. */
const MOST = 0.3;
const UNSEEN = 0.04;
const MOST_AROUND = 0.1;
const UNSEEN_AROUND = 0.005;
/** Where most edges differ by less, none was drawn otherwise: what differs was edited. */
const EQUAL = 0.02;
const SAMPLES = 30_000;
/** Fewer calm squares tell no noise. */
const FEW = 200;

/**
 * `means`: six numbers a square: L*, a*, b* of A less those of B, then those of B. Lowers `beyond` in place where
 * edges explain it.
 */
export function withoutEdges(
  beyond: Float32Array,
  { plain, shared, columns, rows, noise }: Pick<DifferenceMap, 'plain' | 'shared' | 'columns' | 'rows' | 'noise'>,
  means: Float32Array,
): void {
  const reach = (by: number, i: number): number => stepAt(means, columns, rows, i, by);
  const near: Sample[] = [];
  const around: Sample[] = [];
  const calm: number[] = [];
  const stride = max(1, floor(plain.length / SAMPLES)) | 1;
  for (let i = 0; i < plain.length; i += stride) {
    if (!shared[i]) continue;
    const step = reach(NEAR, i);
    const wide = step > STRONG ? 0 : reach(AROUND, i);
    const v = plain[i] as number;
    if (step > STRONG) near.push({ v, step });
    else if (wide > STRONG) around.push({ v, step: wide });
    else calm.push(v);
  }
  // What differs where no edge is tells nothing of edges.
  const still = calm.length > FEW ? max(noise, quantile(calm, 0.97)) : 1.6 * noise;
  const share = (list: readonly Sample[]): number =>
    quantile(
      list.map(({ v }) => v),
      0.5,
    ) < EQUAL
      ? 0
      : 1.5 *
        quantile(
          list.map(({ v, step }) => max(0, v - still) / step),
          0.99,
        );
  const ofStep = min(MOST, share(near) + UNSEEN);
  const ofWide = min(MOST_AROUND, share(around) + UNSEEN_AROUND);
  for (let i = 0; i < beyond.length; i++) {
    if ((beyond[i] as number) < THRESHOLD) continue;
    const explained = noise + max(ofStep * reach(NEAR, i), ofWide * reach(AROUND, i));
    const v = plain[i] as number;
    if (explained > THRESHOLD)
      beyond[i] = min(beyond[i] as number, v <= explained ? 0.99 * THRESHOLD : (v / explained) * THRESHOLD);
  }
}

interface Sample {
  readonly v: number;
  readonly step: number;
}

const quantile = (list: number[], share: number): number =>
  list.sort((p, q) => p - q)[min(list.length - 1, floor(share * list.length))] ?? 0;

/** Beyond all L*, a* and b*. */
const NEVER = 1e6;

/** The largest step of colour among the squares around one, in that of the two pictures that has the smaller one. */
function stepAt(means: Float32Array, columns: number, rows: number, i: number, reach: number): number {
  const x = i % columns;
  const y = (i - x) / columns;
  const box = [max(0, x - reach), max(0, y - reach), min(columns - 1, x + reach), min(rows - 1, y + reach)] as const;
  return min(stepIn(means, columns, box, 1), stepIn(means, columns, box, 0));
}

/** `more` is 1 for A, whose colours are those of B and what it differs by, and 0 for B. */
function stepIn(
  means: Float32Array,
  columns: number,
  [x0, y0, x1, y1]: readonly [number, number, number, number],
  more: 0 | 1,
): number {
  let lowL = NEVER;
  let lowA = NEVER;
  let lowB = NEVER;
  let highL = -NEVER;
  let highA = -NEVER;
  let highB = -NEVER;
  for (let y = y0; y <= y1; y++) {
    for (let x = x0, at = 6 * (y * columns + x0); x <= x1; x++, at += 6) {
      const l = (means[at + 3] as number) + more * (means[at] as number);
      const a = (means[at + 4] as number) + more * (means[at + 1] as number);
      const b = (means[at + 5] as number) + more * (means[at + 2] as number);
      if (l < lowL) lowL = l;
      if (l > highL) highL = l;
      if (a < lowA) lowA = a;
      if (a > highA) highA = a;
      if (b < lowB) lowB = b;
      if (b > highB) highB = b;
    }
  }
  const a = highA - lowA;
  const b = highB - lowB;
  return highL - lowL + sqrt(a * a + b * b) / 2;
}
