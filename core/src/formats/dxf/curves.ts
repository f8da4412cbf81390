/**
 * Curves of DXF entities, flattened into a geometry builder. Angles in radians, counter-clockwise as seen against the
 * axis.
 */
import type { GeometryBuilder } from '../../geometry/builder.ts';

/** Pieces of a full turn. Depends on the sweep alone, so that moving or scaling a curve keeps its points. */
const FULL = 64;
/** Pieces between two knots of a spline. */
const SPAN = 12;
/** Points of one spline, at most. */
const MOST = 20_000;

export const turn = 2 * Math.PI;

/** From `start`, counter-clockwise, to `end`; equal angles make a full turn. */
export function sweepOf(start: number, end: number): number {
  const s = (end - start) % turn;
  return s <= 1e-9 ? s + turn : s;
}

const piecesFor = (sweep: number): number => Math.max(1, Math.ceil((Math.abs(sweep) / turn) * FULL - 1e-6));

/**
 * Points of an ellipse with the half axis (ax, ay) and the other half axis `ratio` times as long, a quarter turn
 * further on.
 */
export function ellipse(
  g: GeometryBuilder,
  cx: number,
  cy: number,
  ax: number,
  ay: number,
  ratio: number,
  start: number,
  sweep: number,
): void {
  const whole = Math.abs(Math.abs(sweep) - turn) < 1e-9;
  const n = piecesFor(sweep);
  for (let k = 0; k < n + (whole ? 0 : 1); k++) {
    const t = start + (sweep * k) / n;
    const c = Math.cos(t);
    const s = Math.sin(t) * ratio;
    const x = cx + ax * c - ay * s;
    const y = cy + ay * c + ax * s;
    if (k === 0) g.moveTo(x, y);
    else g.lineTo(x, y);
  }
  if (whole) g.close();
}

/**
 * The arc of a polyline's bulge (tangent of a quarter of its angle, positive counter-clockwise), from the current
 * point; ends at (x1, y1).
 */
function bulge(g: GeometryBuilder, x0: number, y0: number, x1: number, y1: number, b: number): void {
  const chord = Math.hypot(x1 - x0, y1 - y0);
  if (!Number.isFinite(b) || Math.abs(b) < 1e-9 || chord === 0) return g.lineTo(x1, y1);
  const sweep = 4 * Math.atan(b);
  const n = piecesFor(sweep);
  // Centre: from the middle of the chord, to its left by chord·(1 − b²)/(4b).
  const off = (1 - b * b) / (4 * b);
  const cx = (x0 + x1) / 2 - (y1 - y0) * off;
  const cy = (y0 + y1) / 2 + (x1 - x0) * off;
  for (let k = 1; k < n; k++) {
    const c = Math.cos((sweep * k) / n);
    const s = Math.sin((sweep * k) / n);
    g.lineTo(cx + (x0 - cx) * c - (y0 - cy) * s, cy + (x0 - cx) * s + (y0 - cy) * c);
  }
  g.lineTo(x1, y1);
}

export interface Vertex {
  readonly x: number;
  readonly y: number;
  readonly bulge: number;
}

export function polyline(g: GeometryBuilder, vertices: readonly Vertex[], closed: boolean): void {
  const [first] = vertices;
  if (!first) return;
  g.moveTo(first.x, first.y);
  for (let i = 0; i + 1 < vertices.length + (closed ? 1 : 0); i++) {
    const p = vertices[i] as Vertex;
    const q = vertices[(i + 1) % vertices.length] as Vertex;
    bulge(g, p.x, p.y, q.x, q.y, p.bulge);
  }
  if (closed) g.close();
}

export interface Spline {
  readonly degree: number;
  readonly closed: boolean;
  readonly knots: readonly number[];
  readonly weights: readonly number[];
  /** x and y in turn. */
  readonly control: readonly number[];
  readonly fit: readonly number[];
}

/** A (rational) B-spline by de Boor's algorithm; with fit points alone, a smooth curve through them. */
export function spline(g: GeometryBuilder, s: Spline): void {
  const n = s.control.length >> 1;
  const { degree } = s;
  if (n < 2) return through(g, s.fit, s.closed);
  const usable =
    degree >= 1 &&
    degree <= 25 &&
    s.knots.length === n + degree + 1 &&
    s.knots.every((k, i) => Number.isFinite(k) && (i === 0 || k >= (s.knots[i - 1] as number)));
  if (!usable || n <= degree) {
    for (let i = 0; i < n; i++)
      (i ? g.lineTo.bind(g) : g.moveTo.bind(g))(s.control[2 * i] as number, s.control[2 * i + 1] as number);
    return;
  }
  const rational = s.weights.length === n;
  let started = false;
  let points = 0;
  for (let span = degree; span < n && points < MOST; span++) {
    const from = s.knots[span] as number;
    const to = s.knots[span + 1] as number;
    if (!(to > from)) continue;
    const pieces = degree === 1 ? 1 : SPAN;
    for (let k = started ? 1 : 0; k <= pieces; k++, points++) {
      const [x, y] = deBoor(s, rational, span, from + ((to - from) * k) / pieces);
      if (started) g.lineTo(x, y);
      else g.moveTo(x, y);
      started = true;
    }
  }
  if (s.closed && started) g.close();
}

function deBoor(s: Spline, rational: boolean, span: number, t: number): [number, number] {
  const { degree, knots, control, weights } = s;
  const x: number[] = [];
  const y: number[] = [];
  const w: number[] = [];
  for (let j = 0; j <= degree; j++) {
    const i = span - degree + j;
    const weight = rational ? (weights[i] as number) : 1;
    x.push((control[2 * i] as number) * weight);
    y.push((control[2 * i + 1] as number) * weight);
    w.push(weight);
  }
  for (let r = 1; r <= degree; r++) {
    for (let j = degree; j >= r; j--) {
      const i = span - degree + j;
      const low = knots[i] as number;
      const width = (knots[i + degree - r + 1] as number) - low;
      const a = width > 0 ? (t - low) / width : 0;
      x[j] = (1 - a) * (x[j - 1] as number) + a * (x[j] as number);
      y[j] = (1 - a) * (y[j - 1] as number) + a * (y[j] as number);
      w[j] = (1 - a) * (w[j - 1] as number) + a * (w[j] as number);
    }
  }
  const weight = w[degree] || 1;
  return [(x[degree] as number) / weight, (y[degree] as number) / weight];
}

/** Catmull–Rom curve through points. */
function through(g: GeometryBuilder, fit: readonly number[], closed: boolean): void {
  const n = fit.length >> 1;
  if (!n) return;
  const at = (i: number): [number, number] => {
    const k = closed ? ((i % n) + n) % n : Math.min(Math.max(i, 0), n - 1);
    return [fit[2 * k] as number, fit[2 * k + 1] as number];
  };
  g.moveTo(...at(0));
  for (let i = 0; i < (closed ? n : n - 1); i++) {
    const [p, q, r, s] = [at(i - 1), at(i), at(i + 1), at(i + 2)];
    g.curveTo(
      q[0] + (r[0] - p[0]) / 6,
      q[1] + (r[1] - p[1]) / 6,
      r[0] - (s[0] - q[0]) / 6,
      r[1] - (s[1] - q[1]) / 6,
      r[0],
      r[1],
    );
  }
  if (closed) g.close();
}
