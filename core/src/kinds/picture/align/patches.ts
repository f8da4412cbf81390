/** The last correction of an alignment: how small patches at full size lie. */
import { applyX, applyY, identity, inverse, multiply, shift, type Matrix } from '../../../geometry/matrix.ts';
import { between, Tones, type Bitmap, type Grey } from '../../../raster/bitmap.ts';
import { observe, solve } from './refine.ts';

/** Taken out of their object once: they are called for every pixel. */
const { abs, ceil, floor, hypot, max, min, round, sqrt } = Math;
const { isNaN } = Number;

const PATCH = 32;
const COLUMNS = 9;
const ROWS = 7;

const lightAt = ({ width, data }: Bitmap, x: number, y: number): number => {
  const p = 4 * (y * width + x);
  const { linear, lightness } = Tones;
  const alpha = (data[p + 3] as number) / 255;
  const light =
    0.2126 * (linear[data[p] as number] as number) +
    0.7152 * (linear[data[p + 1] as number] as number) +
    0.0722 * (linear[data[p + 2] as number] as number);
  return lightness[round(4096 * (1 - alpha * (1 - light)))] as number;
};

/** A piece of a picture as lightness. */
function piece(of: Bitmap, x0: number, y0: number, w: number, h: number): Grey {
  const out = new Float32Array(w * h);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++)
      out[y * w + x] = lightAt(of, min(of.width - 1, max(0, x0 + x)), min(of.height - 1, max(0, y0 + y)));
  return { width: w, height: h, data: out };
}

/** How one patch lies: its middle, how far it is off, and how alike its two pieces are then (1 for the same). */
interface Move {
  readonly x: number;
  readonly y: number;
  readonly dx: number;
  readonly dy: number;
  readonly weight: number;
  readonly alike: number;
}

/** The patches with detail in both directions, and how those lie that have something in common; `spots` counts all. */
function movesOf(a: Bitmap, b: Bitmap, m: Matrix, back: Matrix): { moves: Move[]; spots: number } {
  const moves: Move[] = [];
  let spots = 0;
  for (let r = 0; r < ROWS; r++) {
    for (let c = 0; c < COLUMNS; c++) {
      const spot = detailIn(
        b,
        floor((c * b.width) / COLUMNS),
        floor((r * b.height) / ROWS),
        floor(b.width / COLUMNS),
        floor(b.height / ROWS),
      );
      if (spot) spots++;
      const move = spot && patchMove(a, b, m, back, spot);
      if (move) moves.push(move);
    }
  }
  return { moves, spots };
}

/** Fewer patches, or fewer of all of them, do not prove that a picture was not moved. */
const FEWEST_STILL = 12;
const MOST_OF = 0.75;

/**
 * How alike two pictures of one size are (median over patches) if nearly all patches lie where they were, within
 * `still` pixels; undefined otherwise.
 */
export function alikeInPlace(a: Bitmap, b: Bitmap, still: number): number | undefined {
  const { moves, spots } = movesOf(a, b, identity, identity);
  const here = moves.filter((v) => hypot(v.dx, v.dy) < still);
  if (here.length < FEWEST_STILL || here.length < MOST_OF * spots) return undefined;
  return here.map((v) => v.alike).sort((p, q) => p - q)[here.length >> 1];
}

/**
 * Corrects a matrix by how small patches at full size lie, each with detail in both directions. `unsure`: pixels by
 * which it may still be off.
 */
export function byPatches(a: Bitmap, b: Bitmap, m: Matrix): { matrix: Matrix; unsure: number } {
  const back = inverse(m);
  const asItWas = { matrix: m, unsure: 0 };
  // Where B is much smaller than A, its patches hold more than a piece of A of their size.
  if (!back || hypot(back[0], back[1]) > 1.6) return asItWas;
  const { moves } = movesOf(a, b, m, back);
  if (moves.length < 3) return asItWas;
  const cx = b.width / 2;
  const cy = b.height / 2;
  let weights = moves.map((v) => v.weight);
  let fitted: number[] | undefined;
  let usual = 0;
  for (let n = 0; n < 6; n++) {
    const system = Array.from({ length: 4 }, () => new Float64Array(5));
    moves.forEach((v, k) => {
      const x = v.x - cx;
      const y = v.y - cy;
      for (const [j, e] of [
        [[1, 0, -y, x], v.dx],
        [[0, 1, x, y], v.dy],
      ] as const) {
        observe(system, j, e, weights[k] as number);
      }
    });
    // Few patches, or all in one place, say nothing of turns.
    for (const k of [2, 3]) (system[k] as Float64Array)[k] = ((system[k] as Float64Array)[k] as number) + 1e-6;
    fitted = solve(system);
    if (!fitted) return asItWas;
    const [dx = 0, dy = 0, turn = 0, grow = 0] = fitted;
    const errors = moves.map((v) =>
      hypot(dx - turn * (v.y - cy) + grow * (v.x - cx) - v.dx, dy + turn * (v.x - cx) + grow * (v.y - cy) - v.dy),
    );
    const sorted = [...errors].sort((p, q) => p - q);
    const bound = 4 * max(0.02, (usual = sorted[sorted.length >> 1] as number));
    weights = moves.map((v, k) =>
      (errors[k] as number) < bound ? v.weight * (1 - ((errors[k] as number) / bound) ** 2) ** 2 : 0,
    );
  }
  const [dx = 0, dy = 0, turn = 0, grow = 0] = fitted ?? [];
  return {
    matrix: multiply(multiply(shift(cx, cy), multiply([1 + grow, turn, -turn, 1 + grow, dx, dy], shift(-cx, -cy))), m),
    unsure: (1.5 * usual) / sqrt(moves.length),
  };
}

/** The spot of a cell with most detail across both directions, by the smaller eigenvalue of its gradients. */
function detailIn(
  b: Bitmap,
  x0: number,
  y0: number,
  w: number,
  h: number,
): { x: number; y: number; strength: number } | undefined {
  let best: { x: number; y: number; strength: number } | undefined;
  for (let ty = 0; ty < 4; ty++) {
    for (let tx = 0; tx < 4; tx++) {
      const x = round(x0 + ((tx + 0.5) * w) / 4);
      const y = round(y0 + ((ty + 0.5) * h) / 4);
      const half = PATCH >> 1;
      if (x < half + 2 || y < half + 2 || x > b.width - half - 3 || y > b.height - half - 3) continue;
      let xx = 0;
      let yy = 0;
      let xy = 0;
      for (let py = y - half; py < y + half; py += 2) {
        for (let px = x - half; px < x + half; px += 2) {
          const gx = lightAt(b, px + 1, py) - lightAt(b, px - 1, py);
          const gy = lightAt(b, px, py + 1) - lightAt(b, px, py - 1);
          xx += gx * gx;
          yy += gy * gy;
          xy += gx * gy;
        }
      }
      const strength = (xx + yy) / 2 - sqrt(((xx - yy) / 2) ** 2 + xy * xy);
      if (strength > (best?.strength ?? 400)) best = { x, y, strength };
    }
  }
  return best;
}

function patchMove(
  a: Bitmap,
  b: Bitmap,
  m: Matrix,
  back: Matrix,
  spot: { x: number; y: number; strength: number },
): Move | undefined {
  const half = PATCH >> 1;
  const x0 = spot.x - half;
  const y0 = spot.y - half;
  const target = piece(b, x0, y0, PATCH, PATCH);
  const xs = [0, PATCH].flatMap((dx) => [0, PATCH].map((dy) => applyX(back, x0 + dx, y0 + dy)));
  const ys = [0, PATCH].flatMap((dx) => [0, PATCH].map((dy) => applyY(back, x0 + dx, y0 + dy)));
  const ax = floor(min(...xs)) - 4;
  const ay = floor(min(...ys)) - 4;
  const aw = ceil(max(...xs)) + 4 - ax;
  const ah = ceil(max(...ys)) + 4 - ay;
  if (ax < 0 || ay < 0 || ax + aw > a.width || ay + ah > a.height || aw * ah > 40_000) return undefined;
  const source = piece(a, ax, ay, aw, ah);
  const local = multiply(shift(-x0, -y0), multiply(m, shift(ax, ay)));
  const start = multiply(local, identity);
  const end = shiftOnly(source, target, start);
  if (!end || hypot(end[0], end[1]) > 3) return undefined;
  return { x: spot.x, y: spot.y, dx: end[0], dy: end[1], weight: sqrt(spot.strength), alike: end[2] };
}

/**
 * The shift that lays one piece over another, by Gauss–Newton steps, and how alike they were before the last;
 * undefined where they are unlike.
 */
function shiftOnly(
  source: Grey,
  target: Grey,
  m: Matrix,
): readonly [dx: number, dy: number, alike: number] | undefined {
  let dx = 0;
  let dy = 0;
  let alike = 0;
  for (let n = 0; n < 8; n++) {
    const back = inverse(multiply(shift(dx, dy), m));
    if (!back) return undefined;
    const at = (x: number, y: number): number => between(source, applyX(back, x, y) - 0.5, applyY(back, x, y) - 0.5);
    let xx = 0;
    let yy = 0;
    let xy = 0;
    let xe = 0;
    let ye = 0;
    let n0 = 0;
    let sv = 0;
    let st = 0;
    let svv = 0;
    let stt = 0;
    let svt = 0;
    const rows: number[] = [];
    for (let y = 0; y < target.height; y++) {
      for (let x = 0; x < target.width; x++) {
        const v = at(x + 0.5, y + 0.5);
        const gx = (at(x + 1.5, y + 0.5) - at(x - 0.5, y + 0.5)) / 2;
        const gy = (at(x + 0.5, y + 1.5) - at(x + 0.5, y - 0.5)) / 2;
        const t = target.data[y * target.width + x] as number;
        if (isNaN(v + gx + gy)) continue;
        n0++;
        sv += v;
        st += t;
        svv += v * v;
        stt += t * t;
        svt += v * t;
        rows.push(v, gx, gy, t);
      }
    }
    if (n0 < 200) return undefined;
    const va = svv / n0 - (sv / n0) ** 2;
    const vb = stt / n0 - (st / n0) ** 2;
    const both = svt / n0 - (sv * st) / (n0 * n0);
    alike = both / sqrt(va * (vb + 1e-6));
    if (!(va >= 0.2 && alike >= 0.5)) return undefined;
    const gain = both / va;
    const offset = st / n0 - (gain * sv) / n0;
    for (let k = 0; k < rows.length; k += 4) {
      const gx = gain * (rows[k + 1] as number);
      const gy = gain * (rows[k + 2] as number);
      const e = gain * (rows[k] as number) + offset - (rows[k + 3] as number);
      xx += gx * gx;
      yy += gy * gy;
      xy += gx * gy;
      xe += gx * e;
      ye += gy * e;
    }
    const det = xx * yy - xy * xy;
    if (!(det > 1e-6)) return undefined;
    const sx = (yy * xe - xy * ye) / det;
    const sy = (xx * ye - xy * xe) / det;
    dx += sx;
    dy += sy;
    if (abs(sx) + abs(sy) < 0.002) break;
  }
  return [dx, dy, alike];
}
