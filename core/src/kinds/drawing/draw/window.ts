/** What of a page is seen through a window onto another: lines and areas cut at its border, whatever its shape. */
import earcut from 'earcut';
import type { Box } from '../../../geometry/box.ts';

export interface Opening {
  readonly box: Box;
  /** x and y of the corners, alternating, where the border is no upright rectangle. */
  readonly outline?: readonly number[];
}

/** Corners of an outline that are heeded; longer ones are seen as their box. */
const MOST_CORNERS = 2_000;

export class Clip {
  private readonly box: Box;
  private readonly outline: readonly number[];
  /** The opening in convex pieces. */
  private readonly pieces: readonly (readonly number[])[];

  /** Everything is given less (dx, dy). */
  constructor({ box, outline }: Opening, dx: number, dy: number) {
    this.box = [box[0] - dx, box[1] - dy, box[2] - dx, box[3] - dy];
    const [x0, y0, x1, y1] = this.box;
    const own =
      outline && outline.length >= 6 && outline.length <= 2 * MOST_CORNERS
        ? outline.map((v, k) => v - (k % 2 ? dy : dx))
        : undefined;
    this.outline = own ?? [x0, y0, x1, y0, x1, y1, x0, y1];
    this.pieces = own ? triangles(own) : [this.outline];
  }

  has(x: number, y: number): boolean {
    const { box, outline } = this;
    if (x < box[0] || x > box[2] || y < box[1] || y > box[3]) return false;
    let odd = false;
    for (let i = 0, j = outline.length - 2; i < outline.length; j = i, i += 2) {
      const yi = outline[i + 1] as number;
      const yj = outline[j + 1] as number;
      if (
        yi > y !== yj > y &&
        x < (((outline[j] as number) - (outline[i] as number)) * (y - yi)) / (yj - yi) + (outline[i] as number)
      )
        odd = !odd;
    }
    return odd || this.pieces.length === 1;
  }

  /** Intervals of a line, from 0 to 1, that are seen. */
  line(x0: number, y0: number, x1: number, y1: number): (readonly [number, number])[] {
    const within = alongBox(x0, y0, x1, y1, this.box);
    if (!within) return [];
    if (this.pieces.length === 1) return [within];
    const [from, to] = within;
    const cuts = [from, to];
    const dx = x1 - x0;
    const dy = y1 - y0;
    const { outline } = this;
    for (let i = 0, j = outline.length - 2; i < outline.length; j = i, i += 2) {
      const ax = outline[j] as number;
      const ay = outline[j + 1] as number;
      const bx = (outline[i] as number) - ax;
      const by = (outline[i + 1] as number) - ay;
      const across = dx * by - dy * bx;
      if (across === 0) continue;
      const t = ((ax - x0) * by - (ay - y0) * bx) / across;
      const u = ((ax - x0) * dy - (ay - y0) * dx) / across;
      if (t > from && t < to && u >= 0 && u <= 1) cuts.push(t);
    }
    cuts.sort((p, q) => p - q);
    const out: [number, number][] = [];
    for (let k = 0; k + 1 < cuts.length; k++) {
      const p = cuts[k] as number;
      const q = cuts[k + 1] as number;
      const t = (p + q) / 2;
      const last = out.at(-1);
      if (q <= p || !this.has(x0 + t * dx, y0 + t * dy)) continue;
      if (last?.[1] === p) last[1] = q;
      else out.push([p, q]);
    }
    return out;
  }

  /** Triangles that a triangle leaves: x and y of three corners each. */
  triangle(corners: readonly number[]): number[] {
    const out: number[] = [];
    for (const piece of this.pieces) {
      const rest = cutTo(corners, piece);
      for (let k = 2; k + 3 < rest.length; k += 2)
        out.push(
          rest[0] as number,
          rest[1] as number,
          rest[k] as number,
          rest[k + 1] as number,
          rest[k + 2] as number,
          rest[k + 3] as number,
        );
    }
    return out;
  }
}

function triangles(outline: readonly number[]): number[][] {
  const order = earcut([...outline]);
  const out: number[][] = [];
  for (let i = 0; i + 2 < order.length; i += 3)
    out.push(order.slice(i, i + 3).flatMap((k) => [outline[2 * k] as number, outline[2 * k + 1] as number]));
  return out;
}

/** The piece of a line within a box (Liang and Barsky 1984). */
function alongBox(x0: number, y0: number, x1: number, y1: number, w: Box): readonly [number, number] | undefined {
  const dx = x1 - x0;
  const dy = y1 - y0;
  let from = 0;
  let to = 1;
  for (const [p, q] of [
    [-dx, x0 - w[0]],
    [dx, w[2] - x0],
    [-dy, y0 - w[1]],
    [dy, w[3] - y0],
  ] as const) {
    if (p === 0) {
      if (q < 0) return undefined;
    } else if (p < 0) from = Math.max(from, q / p);
    else to = Math.min(to, q / p);
  }
  return from <= to ? [from, to] : undefined;
}

/** A polygon cut to a convex one (Sutherland and Hodgman 1974). */
function cutTo(polygon: readonly number[], convex: readonly number[]): number[] {
  let area = 0;
  for (let i = 0, j = convex.length - 2; i < convex.length; j = i, i += 2)
    area += (convex[j] as number) * (convex[i + 1] as number) - (convex[i] as number) * (convex[j + 1] as number);
  const turn = Math.sign(area);
  let rest = [...polygon];
  for (let i = 0, j = convex.length - 2; i < convex.length && rest.length; j = i, i += 2) {
    const ax = convex[j] as number;
    const ay = convex[j + 1] as number;
    const ex = (convex[i] as number) - ax;
    const ey = (convex[i + 1] as number) - ay;
    const next: number[] = [];
    const side = (x: number, y: number): number => turn * (ex * (y - ay) - ey * (x - ax));
    for (let k = 0, l = rest.length - 2; k < rest.length; l = k, k += 2) {
      const px = rest[l] as number;
      const py = rest[l + 1] as number;
      const qx = rest[k] as number;
      const qy = rest[k + 1] as number;
      const p = side(px, py);
      const q = side(qx, qy);
      if (p >= 0 !== q >= 0) next.push(px + ((qx - px) * p) / (p - q), py + ((qy - py) * p) / (p - q));
      if (q >= 0) next.push(qx, qy);
    }
    rest = next;
  }
  return rest;
}
