/**
 * Changed places: squares beyond a threshold that a person would take for one, ranked. Fast enough to run while a
 * slider moves.
 */
import { CELL, type DifferenceMap } from './difference-map.ts';

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
 * `size` is that of the picture in pixels. Squares nearer to one another than a hundredth of the picture's diagonal,
 * at least 8 and at most 40 pixels, make one region.
 */
export function regionsOf(
  map: MapForRegions,
  size: { readonly width: number; readonly height: number },
  threshold: number,
): { regions: Region[]; labels: Int32Array } {
  const { columns, rows, beyond, plain } = map;
  const marked = new Uint8Array(columns * rows);
  const labels = new Int32Array(columns * rows).fill(-1);
  for (let i = 0; i < marked.length; i++) marked[i] = (beyond[i] as number) >= threshold ? 1 : 0;
  const reach = max(2, min(10, round(hypot(size.width, size.height) / 100 / CELL)));
  const near = spread(marked, columns, rows, ceil(reach / 2));
  const { starts, ends, ys, ids, count } = runsOf(near, columns, rows);
  const found = Array.from({ length: count }, () => ({
    x0: columns,
    y0: rows,
    x1: -1,
    y1: -1,
    cells: 0,
    sum: 0,
    largest: 0,
    evidence: 0,
  }));
  for (let k = 0; k < ids.length; k++) {
    const id = ids[k] as number;
    const region = found[id] as (typeof found)[number];
    const y = ys[k] as number;
    const end = y * columns + (ends[k] as number);
    let first = -1;
    let last = -1;
    let cells = 0;
    let sum = 0;
    let largest = 0;
    let evidence = 0;
    for (let i = y * columns + (starts[k] as number); i < end; i++) {
      if (!marked[i]) continue;
      if (first < 0) first = i;
      last = i;
      labels[i] = id;
      cells++;
      const v = plain[i] as number;
      sum += v;
      if (v > largest) largest = v;
      evidence += beyond[i] as number;
    }
    if (first < 0) continue;
    region.cells += cells;
    region.sum += sum;
    region.evidence += evidence / threshold - cells;
    if (largest > region.largest) region.largest = largest;
    region.x0 = min(region.x0, first - y * columns);
    region.x1 = max(region.x1, last - y * columns);
    region.y0 = min(region.y0, y);
    region.y1 = max(region.y1, y);
  }
  const kept = found
    .map((r, id) => ({ r, id }))
    .filter(({ r }) => enough(r, map.noise))
    .sort((p, q) => q.r.sum - p.r.sum)
    .slice(0, MOST);
  const rank = new Map(kept.map(({ id }, k) => [id, k]));
  const ranks = Int32Array.from({ length: count }, (_, id) => rank.get(id) ?? -1);
  for (let i = 0; i < labels.length; i++) if (labels[i] !== -1) labels[i] = ranks[labels[i] as number] as number;
  return {
    labels,
    regions: kept.map(({ r }) => ({
      box: [r.x0 * CELL, r.y0 * CELL, min(size.width, (r.x1 + 1) * CELL), min(size.height, (r.y1 + 1) * CELL)],
      area: r.cells * CELL * CELL,
      mean: r.sum / r.cells,
      largest: r.largest,
      evidence: r.evidence,
    })),
  };
}

/**
 * Connected components by runs of marked squares along each row, joined where they touch those of the row above
 * (union–find).
 */
function runsOf(
  near: Uint8Array,
  columns: number,
  rows: number,
): { starts: number[]; ends: number[]; ys: number[]; ids: Int32Array; count: number } {
  const starts: number[] = [];
  const ends: number[] = [];
  const ys: number[] = [];
  const parent: number[] = [];
  const root = (k: number): number => {
    let r = k;
    while (parent[r] !== r) r = parent[r] as number;
    while (parent[k] !== r) [parent[k], k] = [r, parent[k] as number];
    return r;
  };
  let above = 0;
  let here = 0;
  for (let y = 0; y < rows; y++) {
    here = starts.length;
    const end = (y + 1) * columns;
    let p = above;
    for (let i = y * columns; i < end; i++) {
      if (!near[i]) continue;
      const from = i - y * columns;
      while (i < end && near[i]) i++;
      const to = i - y * columns;
      const k = starts.push(from) - 1;
      ends.push(to);
      ys.push(y);
      parent.push(k);
      while (p < here && (ends[p] as number) <= from) p++;
      for (let q = p; q < here && (starts[q] as number) < to; q++) {
        const r = root(q);
        const own = root(k);
        if (r < own) parent[own] = r;
        else parent[r] = own;
      }
    }
    above = here;
  }
  const ids = new Int32Array(starts.length);
  const numbers = new Map<number, number>();
  for (let k = 0; k < ids.length; k++) {
    const r = root(k);
    const known = numbers.get(r);
    ids[k] = known ?? numbers.size;
    if (known === undefined) numbers.set(r, numbers.size);
  }
  return { starts, ends, ys, ids, count: numbers.size };
}

/** One odd square proves nothing in a noisy picture; in a quiet one it does. */
const enough = ({ cells, evidence }: { readonly cells: number; readonly evidence: number }, noise: number): boolean =>
  noise < 0.05 || (noise < 0.5 ? cells >= 2 && evidence >= 2.5 : cells >= 3 && evidence >= 10);

/** Marks grown by `by` squares on every side. */
function spread(marked: Uint8Array, columns: number, rows: number, by: number): Uint8Array {
  const wide = new Uint8Array(marked.length);
  const out = new Uint8Array(marked.length);
  for (let y = 0; y < rows; y++) {
    let until = -1;
    for (let x = 0; x < columns; x++) {
      const ahead = x + by < columns ? x + by : columns - 1;
      if (x === 0) for (let k = 0; k <= ahead; k++) if (marked[y * columns + k]) until = k + by;
      if (marked[y * columns + ahead]) until = ahead + by;
      if (x <= until) wide[y * columns + x] = 1;
    }
  }
  // Down the columns, a row at a time.
  const until = new Int32Array(columns).fill(-1);
  for (let y = -by; y < rows; y++) {
    const ahead = (y + by) * columns;
    if (y + by < rows) for (let x = 0; x < columns; x++) if (wide[ahead + x]) until[x] = y + 2 * by;
    if (y >= 0) for (let x = 0; x < columns; x++) out[y * columns + x] = (until[x] as number) >= y ? 1 : 0;
  }
  return out;
}
