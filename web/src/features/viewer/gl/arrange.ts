/**
 * Puts the segments of a scene in an order that can be drawn in part: by blocks of the page, and in each block the
 * longest first.
 */
import type { Scene } from '@ovrel/core/scene';

/** Segments of a block, on average. */
const BLOCK = 1500;

export interface Block {
  readonly first: number;
  readonly count: number;
  readonly box: readonly [number, number, number, number];
}

export interface Arranged {
  /** As in the scene, in the new order. */
  readonly ends: Float32Array;
  readonly lengths: Float32Array;
  /** For each end: number of its style, of its part, and how far along the line it is. Two entries a segment. */
  readonly style: Uint16Array;
  readonly part: Uint32Array;
  readonly along: Float32Array;
  readonly blocks: readonly Block[];
}

export function arrange(scene: Pick<Scene, 'ends' | 'along' | 'style' | 'part'>): Arranged {
  const { ends } = scene;
  const n = scene.style.length;
  const length = new Float32Array(n);
  let minX = Infinity;
  let minY = Infinity;
  let maxX = -Infinity;
  let maxY = -Infinity;
  for (let i = 0; i < n; i++) {
    const x0 = ends[4 * i] as number;
    const y0 = ends[4 * i + 1] as number;
    const x1 = ends[4 * i + 2] as number;
    const y1 = ends[4 * i + 3] as number;
    length[i] = Math.hypot(x1 - x0, y1 - y0);
    minX = Math.min(minX, x0, x1);
    maxX = Math.max(maxX, x0, x1);
    minY = Math.min(minY, y0, y1);
    maxY = Math.max(maxY, y0, y1);
  }
  const side = Math.max(1, Math.min(256, Math.round(Math.sqrt(n / BLOCK))));
  const w = (maxX - minX) / side || 1;
  const h = (maxY - minY) / side || 1;
  const cell = new Uint32Array(n);
  const long = 4 * Math.max(w, h);
  for (let i = 0; i < n; i++) {
    const cx = ((ends[4 * i] as number) + (ends[4 * i + 2] as number)) / 2;
    const cy = ((ends[4 * i + 1] as number) + (ends[4 * i + 3] as number)) / 2;
    // Lines across many cells have a block of their own, so that the others stay small.
    cell[i] =
      side > 1 && (length[i] as number) > long
        ? side * side
        : Math.min(side - 1, Math.floor((cy - minY) / h)) * side + Math.min(side - 1, Math.floor((cx - minX) / w));
  }
  const order = new Uint32Array(n)
    .map((_, i) => i)
    .sort((p, q) => (cell[p] as number) - (cell[q] as number) || (length[q] as number) - (length[p] as number));
  const out = {
    ends: new Float32Array(4 * n),
    lengths: new Float32Array(n),
    style: new Uint16Array(2 * n),
    part: new Uint32Array(2 * n),
    along: new Float32Array(2 * n),
  };
  const blocks: Block[] = [];
  let first = 0;
  let box: [number, number, number, number] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let k = 0; k < n; k++) {
    const i = order[k] as number;
    const along = scene.along[i] as number;
    for (let c = 0; c < 4; c++) {
      const v = ends[4 * i + c] as number;
      out.ends[4 * k + c] = v;
      if (v < (box[c % 2] as number)) box[c % 2] = v;
      if (v > (box[(c % 2) + 2] as number)) box[(c % 2) + 2] = v;
    }
    out.lengths[k] = length[i] as number;
    out.style.fill(scene.style[i] as number, 2 * k, 2 * k + 2);
    out.part.fill(scene.part[i] as number, 2 * k, 2 * k + 2);
    out.along[2 * k] = along;
    out.along[2 * k + 1] = along + (length[i] as number);
    if (k + 1 === n || cell[order[k + 1] as number] !== cell[i]) {
      blocks.push({ first, count: k + 1 - first, box });
      first = k + 1;
      box = [Infinity, Infinity, -Infinity, -Infinity];
    }
  }
  return { ...out, blocks };
}

/** Segments of a block that are at least so long: they stand first. */
export function longerThan({ lengths }: Pick<Arranged, 'lengths'>, block: Block, least: number): number {
  let low = 0;
  let high = block.count;
  while (low < high) {
    const mid = (low + high) >> 1;
    if ((lengths[block.first + mid] as number) >= least) low = mid + 1;
    else high = mid;
  }
  return low;
}

/** The part drawn nearest to a point within `reach`, in scene coordinates; undefined for none. */
export function partAt(
  { ends, part, blocks }: Arranged,
  x: number,
  y: number,
  reach: number,
  shown: (segment: number) => boolean,
): number | undefined {
  let best: number | undefined;
  let nearest = reach;
  for (const { first, count, box } of blocks) {
    if (x < box[0] - reach || x > box[2] + reach || y < box[1] - reach || y > box[3] + reach) continue;
    for (let k = first; k < first + count; k++) {
      const d = distance(
        x,
        y,
        ends[4 * k] as number,
        ends[4 * k + 1] as number,
        ends[4 * k + 2] as number,
        ends[4 * k + 3] as number,
      );
      if (d < nearest && shown(k)) {
        nearest = d;
        best = part[2 * k];
      }
    }
  }
  return best;
}

/** The end of a line nearest to a point within `reach`, in scene coordinates; undefined for none. */
export function endAt(
  { ends, blocks }: Arranged,
  x: number,
  y: number,
  reach: number,
  shown: (segment: number) => boolean,
): readonly [number, number] | undefined {
  let best: readonly [number, number] | undefined;
  let nearest = reach;
  for (const { first, count, box } of blocks) {
    if (x < box[0] - reach || x > box[2] + reach || y < box[1] - reach || y > box[3] + reach) continue;
    for (let k = 2 * first; k < 2 * (first + count); k++) {
      const px = ends[2 * k] as number;
      const py = ends[2 * k + 1] as number;
      const d = Math.hypot(px - x, py - y);
      if (d < nearest && shown(k >> 1)) {
        nearest = d;
        best = [px, py];
      }
    }
  }
  return best;
}

function distance(x: number, y: number, x0: number, y0: number, x1: number, y1: number): number {
  const dx = x1 - x0;
  const dy = y1 - y0;
  const l = dx * dx + dy * dy;
  const t = l > 0 ? Math.min(1, Math.max(0, ((x - x0) * dx + (y - y0) * dy) / l)) : 0;
  return Math.hypot(x - x0 - t * dx, y - y0 - t * dy);
}
