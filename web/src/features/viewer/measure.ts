/** Distances and areas on the page. */
import type { Camera } from './camera.ts';

export type Spot = readonly [x: number, y: number];

export interface Measured {
  /** Length of the last stretch, of all, and the area inside, in design units. */
  readonly last: number;
  readonly whole: number;
  readonly area: number;
}

export function measured(points: readonly Spot[]): Measured {
  let last = 0;
  let whole = 0;
  let twice = 0;
  points.forEach(([x, y], i) => {
    const [px, py] = points[i - 1] ?? [x, y];
    const [nx, ny] = points[(i + 1) % points.length] ?? [x, y];
    last = Math.hypot(x - px, y - py);
    whole += last;
    twice += x * ny - nx * y;
  });
  return { last, whole, area: points.length > 2 ? Math.abs(twice) / 2 : 0 };
}

/** Of a length or an area, to five digits. */
export const sayLength = (n: number): string =>
  Math.abs(n) >= 1000 ? n.toLocaleString('en', { maximumFractionDigits: 1 }) : String(Number(n.toPrecision(5)));

/**
 * "1,250.5 mm", and with three points and more the sum and the area. `millimetres`: of one design unit, where the
 * page says so.
 */
export function sayMeasured(points: readonly Spot[], unit: string, millimetres: number | undefined): string {
  const factor = millimetres ?? 1;
  const name = millimetres === undefined ? unit : 'mm';
  const m = measured(points);
  const one = `${sayLength(m.last * factor)} ${name}`.trim();
  if (points.length < 3) return one;
  const area = m.area * factor * factor;
  return (
    `${one}, in all ${sayLength(m.whole * factor)} ${name}`.trim() +
    `, area ${millimetres !== undefined && area >= 1e5 ? `${sayLength(area / 1e6)} m²` : `${sayLength(area)} ${name}²`}`
  );
}

const INK = '#17212b';

export function drawMeasure(c: CanvasRenderingContext2D, points: readonly Spot[], words: string, m: Camera): void {
  const at = ([x, y]: Spot): Spot => [x * m.scale + m.x, y * m.scale + m.y];
  const last = points.at(-1);
  if (!last) return;
  c.save();
  c.strokeStyle = INK;
  c.fillStyle = INK;
  c.lineWidth = 1.5;
  c.beginPath();
  points.forEach((p, i) => (i ? c.lineTo(...at(p)) : c.moveTo(...at(p))));
  c.stroke();
  if (points.length > 2) {
    c.globalAlpha = 0.08;
    c.fill('evenodd');
    c.globalAlpha = 1;
  }
  for (const p of points) {
    // A short cross tick, as on a dimension line.
    const [x, y] = at(p);
    c.beginPath();
    c.moveTo(x - 5, y + 5);
    c.lineTo(x + 5, y - 5);
    c.stroke();
  }
  if (points.length > 1) {
    const [x, y] = at(last);
    c.font = '600 13px "IBM Plex Mono", monospace';
    c.textAlign = 'left';
    const w = c.measureText(words).width;
    c.fillStyle = '#ffffff';
    c.fillRect(x + 10, y - 24, w + 10, 20);
    c.strokeRect(x + 10, y - 24, w + 10, 20);
    c.fillStyle = INK;
    c.fillText(words, x + 15, y - 9);
  }
  c.restore();
}
