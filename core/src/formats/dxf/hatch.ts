/** Boundaries and patterns of hatches (DXF reference, HATCH). */
import type { GeometryBuilder } from '../../geometry/builder.ts';
import type { HatchLine } from '../../model/design.ts';
import { ellipse, polyline, spline, sweepOf, type Vertex } from './curves.ts';
import type { Span } from './document.ts';
import type { Groups } from './groups.ts';

const MOST_LINES = 64;

/** Draws the boundary paths, and gives the families of lines that fill it. */
export function hatch(g: Groups, span: Span, into: GeometryBuilder): HatchLine[] {
  const reader = new HatchReader(g, span, into);
  return reader.run();
}

class HatchReader {
  private i: number;
  private readonly g: Groups;
  private readonly span: Span;
  private readonly into: GeometryBuilder;

  constructor(g: Groups, span: Span, into: GeometryBuilder) {
    this.g = g;
    this.span = span;
    this.into = into;
    this.i = span.first + 1;
  }

  run(): HatchLine[] {
    let lines: HatchLine[] = [];
    for (; this.i < this.span.last && (this.g.codes[this.i] as number) < 1000; this.i++) {
      if (this.g.codes[this.i] === 92) this.path(this.g.number(this.i));
      if (this.g.codes[this.i] === 78) lines = this.pattern(this.g.number(this.i));
    }
    return lines;
  }

  /** The value of the next group with this code; the reader stands on it afterwards. */
  private next(code: number, otherwise: number): number {
    for (let k = this.i + 1; k < Math.min(this.span.last, this.i + 12); k++) {
      if (this.g.codes[k] === 92 || this.g.codes[k] === 97) break;
      if (this.g.codes[k] !== code) continue;
      this.i = k;
      const n = this.g.number(k);
      return Number.isNaN(n) ? otherwise : n;
    }
    return otherwise;
  }

  private path(flags: number): void {
    if (flags & 2) {
      const bulges = this.next(72, 0) !== 0;
      const closed = this.next(73, 1) !== 0;
      const count = Math.min(this.next(93, 0), this.span.last - this.i);
      const vertices: Vertex[] = [];
      for (let k = 0; k < count; k++)
        vertices.push({
          x: this.next(10, 0),
          y: this.next(20, 0),
          bulge: bulges && this.g.codes[this.i + 1] === 42 ? this.next(42, 0) : 0,
        });
      polyline(this.into, vertices, closed);
      return;
    }
    const edges = Math.min(this.next(93, 0), this.span.last - this.i);
    for (let k = 0; k < edges; k++) this.edge(this.next(72, 0));
  }

  private edge(type: number): void {
    if (type === 1) {
      this.into.moveTo(this.next(10, 0), this.next(20, 0));
      this.into.lineTo(this.next(11, 0), this.next(21, 0));
    } else if (type === 2) {
      const x = this.next(10, 0);
      const y = this.next(20, 0);
      const r = this.next(40, 0);
      const from = this.next(50, 0);
      const to = this.next(51, 360);
      this.arc(x, y, r, 0, 1, from, to);
    } else if (type === 3) {
      const x = this.next(10, 0);
      const y = this.next(20, 0);
      const ax = this.next(11, 0);
      const ay = this.next(21, 0);
      const ratio = this.next(40, 1);
      const from = this.next(50, 0);
      const to = this.next(51, 360);
      this.arc(x, y, ax, ay, ratio, from, to);
    } else if (type === 4) this.spline();
  }

  private arc(x: number, y: number, ax: number, ay: number, ratio: number, from: number, to: number): void {
    const degrees = Math.PI / 180;
    const ccw = this.next(73, 1) !== 0;
    const sweep = sweepOf(from * degrees, to * degrees);
    // Clockwise edges give their angles as seen from below.
    if (ccw) ellipse(this.into, x, y, ax, ay, ratio, from * degrees, sweep);
    else ellipse(this.into, x, y, ax, ay, ratio, -from * degrees, -sweep);
  }

  private spline(): void {
    const degree = this.next(94, 3);
    const rational = this.next(73, 0) !== 0;
    const closed = this.next(74, 0) !== 0;
    const bound = this.span.last - this.i;
    const knots = Math.min(this.next(95, 0), bound);
    const points = Math.min(this.next(96, 0), bound);
    const knot: number[] = [];
    const control: number[] = [];
    const weights: number[] = [];
    for (let k = 0; k < knots; k++) knot.push(this.next(40, 0));
    for (let k = 0; k < points; k++) {
      control.push(this.next(10, 0), this.next(20, 0));
      if (rational) weights.push(this.next(42, 1));
    }
    spline(this.into, { degree, closed, knots: knot, weights, control, fit: [] });
  }

  private pattern(count: number): HatchLine[] {
    const out: HatchLine[] = [];
    for (let k = 0; k < Math.min(count, MOST_LINES); k++) {
      const angle = this.next(53, NaN);
      if (Number.isNaN(angle)) break;
      const x = this.next(43, 0);
      const y = this.next(44, 0);
      const dx = this.next(45, 0);
      const dy = this.next(46, 0);
      const dashes: number[] = [];
      const n = Math.min(this.next(79, 0), 32);
      for (let d = 0; d < n; d++) dashes.push(this.next(49, 0));
      out.push({ angle, x, y, dx, dy, dashes });
    }
    return out;
  }
}
