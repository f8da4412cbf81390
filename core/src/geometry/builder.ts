/** Collects flattened geometry of many parts into the flat arrays of `Geometry`. */
import type { Geometry } from '../model/design.ts';
import { ReadError } from '../model/problem.ts';
import type { Box } from './box.ts';
import { applyX, applyY, type Matrix } from './matrix.ts';

/** Pieces that a cubic curve is cut into. Fixed, so that moving a curve never changes its number of points. */
const CURVE_PIECES = 8;

export class GeometryBuilder {
  private points = new Float64Array(1024);
  private used = 0;
  private starts = new Uint32Array(256);
  private closedFlags = new Uint8Array(256);
  private count = 0;
  private matrix: Matrix = [1, 0, 0, 1, 0, 0];
  private x = 0;
  private y = 0;
  private readonly pointLimit: number;

  constructor(pointLimit: number) {
    this.pointLimit = pointLimit;
  }

  get subpathCount(): number {
    return this.count;
  }

  setMatrix(m: Matrix): void {
    this.matrix = m;
  }

  moveTo(x: number, y: number): void {
    this.dropEmpty();
    if (this.count === this.starts.length) {
      const starts = new Uint32Array(this.count * 2);
      const closed = new Uint8Array(this.count * 2);
      starts.set(this.starts);
      closed.set(this.closedFlags);
      [this.starts, this.closedFlags] = [starts, closed];
    }
    this.starts[this.count] = this.used >> 1;
    this.closedFlags[this.count++] = 0;
    this.push(x, y);
  }

  lineTo(x: number, y: number): void {
    this.push(x, y);
  }

  /** Cubic Bézier from the current point. */
  curveTo(x1: number, y1: number, x2: number, y2: number, x: number, y: number): void {
    const x0 = this.x;
    const y0 = this.y;
    for (let i = 1; i < CURVE_PIECES; i++) {
      const t = i / CURVE_PIECES;
      const u = 1 - t;
      const c0 = u * u * u;
      const c1 = 3 * u * u * t;
      const c2 = 3 * u * t * t;
      const c3 = t * t * t;
      this.push(c0 * x0 + c1 * x1 + c2 * x2 + c3 * x, c0 * y0 + c1 * y1 + c2 * y2 + c3 * y);
    }
    this.push(x, y);
  }

  /**
   * Closes the subpath. A last point on top of the first is dropped, so that both spellings of a closed shape are one.
   */
  close(): void {
    const subpath = this.count - 1;
    if (subpath < 0) return;
    this.closedFlags[subpath] = 1;
    const first = 2 * (this.starts[subpath] as number);
    const last = this.used - 2;
    const near = (a: number, b: number): boolean => Math.abs(a - b) <= 1e-9 * Math.max(1, Math.abs(a));
    const p = this.points;
    if (
      last > first &&
      near(p[first] as number, p[last] as number) &&
      near(p[first + 1] as number, p[last + 1] as number)
    )
      this.used = last;
  }

  /** Bounds of the subpaths from `first` on, in page coordinates. */
  boxFrom(first: number): Box | undefined {
    if (first >= this.count) return undefined;
    const begin = this.starts[first] as number;
    if (2 * begin >= this.used) return undefined;
    let minX = Infinity;
    let minY = Infinity;
    let maxX = -Infinity;
    let maxY = -Infinity;
    for (let i = 2 * begin; i < this.used; i += 2) {
      const x = this.points[i] as number;
      const y = this.points[i + 1] as number;
      if (x < minX) minX = x;
      if (x > maxX) maxX = x;
      if (y < minY) minY = y;
      if (y > maxY) maxY = y;
    }
    return [minX, minY, maxX, maxY];
  }

  /** Moves the subpaths from `first` on, in page coordinates. */
  shift(first: number, dx: number, dy: number): void {
    for (let i = first < this.count ? 2 * (this.starts[first] as number) : this.used; i < this.used; i += 2) {
      this.points[i] = (this.points[i] as number) + dx;
      this.points[i + 1] = (this.points[i + 1] as number) + dy;
    }
  }

  /** Coordinates of subpath `s` as they are kept: x and y in turn. */
  pointsOf(s: number): Float64Array {
    return this.points.subarray(
      2 * (this.starts[s] as number),
      s + 1 < this.count ? 2 * (this.starts[s + 1] as number) : this.used,
    );
  }

  /** Closed, or ending where it began. */
  endsWhereItBegan(s: number): boolean {
    if (this.closedFlags[s]) return true;
    const points = this.pointsOf(s);
    return points.length > 4 && points[0] === points.at(-2) && points[1] === points.at(-1);
  }

  /** Forgets the subpaths from `first` on. */
  cutBack(first: number): void {
    if (first >= this.count) return;
    this.used = 2 * (this.starts[first] as number);
    this.count = first;
  }

  finish(): Geometry {
    this.dropEmpty();
    const starts = new Uint32Array(this.count + 1);
    starts.set(this.starts.subarray(0, this.count));
    starts[this.count] = this.used >> 1;
    return { points: this.points.slice(0, this.used), starts, closed: this.closedFlags.slice(0, this.count) };
  }

  /** A move that nothing followed draws nothing. */
  private dropEmpty(): void {
    if (this.count && this.starts[this.count - 1] === this.used >> 1) this.count--;
  }

  private push(x: number, y: number): void {
    this.x = x;
    this.y = y;
    if (this.used + 2 > this.points.length) this.grow();
    const px = applyX(this.matrix, x, y);
    const py = applyY(this.matrix, x, y);
    this.points[this.used++] = Number.isFinite(px) ? px : 0;
    this.points[this.used++] = Number.isFinite(py) ? py : 0;
  }

  private grow(): void {
    if (this.used / 2 >= this.pointLimit) {
      throw new ReadError(
        `The drawing has more than ${this.pointLimit.toLocaleString('en')} points, which is more than Ovrel reads part by part.`,
      );
    }
    const larger = new Float64Array(this.points.length * 2);
    larger.set(this.points);
    this.points = larger;
  }
}
