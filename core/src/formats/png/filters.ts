/** Filters of PNG rows: each byte as its difference from what its neighbours let expect (W3C PNG, 9). */
import { ReadError } from '../../model/problem.ts';

const FILTERS = 5;

/** Rows behind one another, without the byte that names the filter of each. */
export function unfiltered(data: Uint8Array, stride: number, height: number, bits: number): Uint8Array {
  const step = Math.max(1, bits >> 3);
  const rows = new Uint8Array(stride * height);
  for (let y = 0; y < height; y++) {
    const from = y * (stride + 1);
    const filter = data[from] as number;
    if (filter >= FILTERS) throw new ReadError('The pixels of the picture are damaged.');
    const at = y * stride;
    for (let x = 0; x < stride; x++) {
      const expected = expectation(filter, rows, at, x, step, stride, y);
      rows[at + x] = (data[from + 1 + x] as number) + expected;
    }
  }
  return rows;
}

function expectation(
  filter: number,
  rows: Uint8Array,
  at: number,
  x: number,
  step: number,
  stride: number,
  y: number,
): number {
  if (filter === 0) return 0;
  const left = x >= step ? (rows[at + x - step] as number) : 0;
  if (filter === 1) return left;
  const above = y > 0 ? (rows[at + x - stride] as number) : 0;
  if (filter === 2) return above;
  if (filter === 3) return (left + above) >> 1;
  const corner = x >= step && y > 0 ? (rows[at + x - stride - step] as number) : 0;
  return nearest(left, above, corner);
}

/** The neighbour that is nearest to left + above − corner (Paeth). */
function nearest(left: number, above: number, corner: number): number {
  const toLeft = Math.abs(above - corner);
  const toAbove = Math.abs(left - corner);
  const toCorner = Math.abs(left + above - 2 * corner);
  if (toLeft <= toAbove && toLeft <= toCorner) return left;
  return toAbove <= toCorner ? above : corner;
}

/** For each row the filter that leaves the smallest numbers; none where `plain`, as for palettes. */
export function filtered(rows: Uint8Array, stride: number, bits: number, plain: boolean): Uint8Array {
  const step = Math.max(1, bits >> 3);
  const height = stride === 0 ? 0 : rows.length / stride;
  const out = new Uint8Array((stride + 1) * height);
  const tried = Array.from({ length: plain ? 1 : FILTERS }, () => new Uint8Array(stride));
  for (let y = 0; y < height; y++) {
    const at = y * stride;
    let best = 0;
    let least = Infinity;
    for (const [filter, row] of tried.entries()) {
      let sum = 0;
      for (let x = 0; x < stride; x++) {
        const value = ((rows[at + x] as number) - expectation(filter, rows, at, x, step, stride, y)) & 0xff;
        row[x] = value;
        sum += value < 128 ? value : 256 - value;
      }
      if (sum >= least) continue;
      least = sum;
      best = filter;
    }
    out[y * (stride + 1)] = best;
    out.set(tried[best] as Uint8Array, y * (stride + 1) + 1);
  }
  return out;
}
