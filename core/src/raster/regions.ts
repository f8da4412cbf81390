/** Changed places: squares beyond a threshold that a person would take for one, ranked. Fast enough to run while a slider moves. */
import { CELL, type DifferenceMap } from './difference.ts';

/** Taken out of their object once: they are called for every pixel. */
const { ceil, hypot, max, min, round } = Math;

export interface Region {
  /** left, top, right, bottom in pixels. */
  readonly box: readonly [number, number, number, number];
  /** Pixels of the squares that changed. */
  readonly area: number;
  /** CIEDE2000 over these squares. */
  readonly mean: number;
  readonly largest: number;
  /** How far beyond the threshold, summed over the squares, in thresholds. */
  readonly evidence: number;
}

export type MapForRegions = Pick<DifferenceMap, 'columns' | 'rows'> & {
  readonly plain: ArrayLike<number>;
  readonly beyond: ArrayLike<number>;
  readonly noise: number;
};

/** Regions that are listed. */
const MOST = 400;

/**
 * `size` is that of the picture in pixels. Squares nearer to one another than a hundredth of the picture's diagonal, at least 8
 * and at most 40 pixels, make one region.
 */
export function regionsOf(map: MapForRegions, size: { readonly width: number; readonly height: number }, threshold: number): { regions: Region[]; labels: Int32Array } {
  const { columns, rows, beyond, plain } = map, marked = new Uint8Array(columns * rows), labels = new Int32Array(columns * rows).fill(-1);
  for (let i = 0; i < marked.length; i++) marked[i] = (beyond[i] as number) >= threshold ? 1 : 0;
  const reach = max(2, min(10, round(hypot(size.width, size.height) / 100 / CELL)));
  const near = spread(marked, columns, rows, ceil(reach / 2));
  const found: { x0: number; y0: number; x1: number; y1: number; cells: number; sum: number; largest: number; evidence: number }[] = [], stack: number[] = [];
  for (let start = 0; start < near.length; start++) {
    if (!near[start] || labels[start] !== -1) continue;
    const id = found.length, region = { x0: columns, y0: rows, x1: -1, y1: -1, cells: 0, sum: 0, largest: 0, evidence: 0 };
    labels[start] = id;
    stack.push(start);
    for (let i = stack.pop(); i !== undefined; i = stack.pop()) {
      const x = i % columns, y = (i - x) / columns;
      if (marked[i]) {
        region.x0 = min(region.x0, x);
        region.x1 = max(region.x1, x);
        region.y0 = min(region.y0, y);
        region.y1 = max(region.y1, y);
        region.cells++;
        region.sum += plain[i] as number;
        region.largest = max(region.largest, plain[i] as number);
        region.evidence += (beyond[i] as number) / threshold - 1;
      }
      for (const j of [x > 0 ? i - 1 : -1, x + 1 < columns ? i + 1 : -1, i - columns, i + columns]) {
        if (j >= 0 && j < near.length && near[j] && labels[j] === -1) {
          labels[j] = id;
          stack.push(j);
        }
      }
    }
    found.push(region);
  }
  const kept = found.map((r, id) => ({ r, id })).filter(({ r }) => enough(r, map.noise)).sort((p, q) => q.r.sum - p.r.sum).slice(0, MOST);
  const rank = new Map(kept.map(({ id }, k) => [id, k]));
  for (let i = 0; i < labels.length; i++) labels[i] = marked[i] ? rank.get(labels[i] as number) ?? -1 : -1;
  return {
    labels,
    regions: kept.map(({ r }) => ({
      box: [r.x0 * CELL, r.y0 * CELL, min(size.width, (r.x1 + 1) * CELL), min(size.height, (r.y1 + 1) * CELL)],
      area: r.cells * CELL * CELL, mean: r.sum / r.cells, largest: r.largest, evidence: r.evidence,
    })),
  };
}

/** One odd square proves nothing in a noisy picture; in a quiet one it does. */
const enough = ({ cells, evidence }: { readonly cells: number; readonly evidence: number }, noise: number): boolean =>
  noise < 0.05 || (noise < 0.5 ? cells >= 2 && evidence >= 2.5 : cells >= 3 && evidence >= 10);

/** Marks grown by `by` squares on every side. */
function spread(marked: Uint8Array, columns: number, rows: number, by: number): Uint8Array {
  const wide = new Uint8Array(marked.length), out = new Uint8Array(marked.length);
  for (let y = 0; y < rows; y++) {
    let until = -1;
    for (let x = 0; x < columns; x++) {
      const ahead = x + by < columns ? x + by : columns - 1;
      if (x === 0) for (let k = 0; k <= ahead; k++) if (marked[y * columns + k]) until = k + by;
      if (marked[y * columns + ahead]) until = ahead + by;
      if (x <= until) wide[y * columns + x] = 1;
    }
  }
  for (let x = 0; x < columns; x++) {
    let until = -1;
    for (let y = 0; y < rows; y++) {
      const ahead = y + by < rows ? y + by : rows - 1;
      if (y === 0) for (let k = 0; k <= ahead; k++) if (wide[k * columns + x]) until = k + by;
      if (wide[ahead * columns + x]) until = ahead + by;
      if (y <= until) out[y * columns + x] = 1;
    }
  }
  return out;
}
