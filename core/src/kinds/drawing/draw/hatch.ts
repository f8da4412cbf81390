/**
 * The lines that fill a hatched area: families of parallels, cut at the boundary by the even-odd rule, then into
 * dashes.
 */
import type { Design, HatchLine, Part } from '../../../model/design.ts';

/** Parallels of one family, and pieces of one hatch, at most; a denser pattern is left out. */
const MOST_PARALLELS = 4000;
const MOST_PIECES = 40_000;

/** Ends of lines, x0, y0, x1, y1 each, in the part's own coordinates. */
export function hatchLines(design: Design, part: Part): number[] {
  const edges = edgesOf(design, part);
  const out: number[] = [];
  for (const family of part.hatch ?? []) fill(edges, family, out);
  return out;
}

/** Edges of the boundary; open runs are closed. */
function edgesOf(design: Design, part: Part): Float64Array {
  const { points, starts, closed } = design.geometry;
  const edges: number[] = [];
  for (let s = part.firstSubpath; s < part.firstSubpath + part.subpaths; s++) {
    const begin = starts[s] as number;
    const end = starts[s + 1] as number;
    for (let p = begin; p + 1 < end; p++)
      edges.push(
        points[2 * p] as number,
        points[2 * p + 1] as number,
        points[2 * p + 2] as number,
        points[2 * p + 3] as number,
      );
    if (closed[s] && end - begin > 2)
      edges.push(
        points[2 * end - 2] as number,
        points[2 * end - 1] as number,
        points[2 * begin] as number,
        points[2 * begin + 1] as number,
      );
  }
  return Float64Array.from(edges);
}

function fill(edges: Float64Array, family: HatchLine, out: number[]): void {
  const a = (family.angle * Math.PI) / 180;
  const c = Math.cos(a);
  const s = Math.sin(a);
  // In a frame whose u runs along the lines and v across them.
  const across = c * family.dy - s * family.dx;
  const along = c * family.dx + s * family.dy;
  const u0 = c * family.x + s * family.y;
  const v0 = c * family.y - s * family.x;
  if (!(Math.abs(across) > 0) || !edges.length) return;
  let low = Infinity;
  let high = -Infinity;
  for (let i = 0; i < edges.length; i += 2) {
    const v = c * (edges[i + 1] as number) - s * (edges[i] as number);
    low = Math.min(low, v);
    high = Math.max(high, v);
  }
  const first = Math.ceil(Math.min((low - v0) / across, (high - v0) / across));
  const last = Math.floor(Math.max((low - v0) / across, (high - v0) / across));
  if (!(last - first < MOST_PARALLELS)) return;
  // Crossings of every edge with the parallels that it spans.
  const crossings = Array.from({ length: last - first + 1 }, (): number[] => []);
  for (let i = 0; i < edges.length; i += 4) {
    const ua = c * (edges[i] as number) + s * (edges[i + 1] as number);
    const va = c * (edges[i + 1] as number) - s * (edges[i] as number);
    const ub = c * (edges[i + 2] as number) + s * (edges[i + 3] as number);
    const vb = c * (edges[i + 3] as number) - s * (edges[i + 2] as number);
    if (va === vb) continue;
    const ka = (va - v0) / across;
    const kb = (vb - v0) / across;
    // Half open, so that a corner on a parallel counts once.
    for (let k = Math.max(first, Math.ceil(Math.min(ka, kb))); k <= Math.min(last, Math.max(ka, kb)); k++) {
      if (k === Math.max(ka, kb)) continue;
      crossings[k - first]?.push(ua + ((ub - ua) * (k - ka)) / (kb - ka));
    }
  }
  crossings.forEach((us, n) => {
    const k = n + first;
    const v = v0 + k * across;
    us.sort((p, q) => p - q);
    for (let i = 0; i + 1 < us.length && out.length < 4 * MOST_PIECES; i += 2)
      dashed(us[i] as number, us[i + 1] as number, u0 + k * along, family.dashes, (from, to) =>
        out.push(c * from - s * v, s * from + c * v, c * to - s * v, s * to + c * v),
      );
  });
}

/** Pieces of a line from `from` to `to` whose pattern begins at `origin`. */
function dashed(
  from: number,
  to: number,
  origin: number,
  dashes: readonly number[],
  piece: (from: number, to: number) => void,
): void {
  const period = dashes.reduce((sum, d) => sum + Math.abs(d), 0);
  if (!(period > 0) || (to - from) / period > 2000) return piece(from, to);
  for (let at = origin + Math.floor((from - origin) / period) * period; at < to; at += period) {
    let u = at;
    for (const d of dashes) {
      const end = u + Math.abs(d);
      if (d >= 0 && end >= from && u <= to) piece(Math.max(u, from), Math.min(Math.max(end, u), to));
      u = end;
    }
  }
}
