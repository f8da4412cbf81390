/** Draws the basic shapes and paths of SVG 2 (§9, §10) into a geometry builder. */
import svgpath from 'svgpath';
import type { GeometryBuilder } from '../../geometry/builder.ts';
import type { XmlElement } from '../xml/parse.ts';
import { lengthOf } from './length.ts';

/** Kind words by element name. */
export const shapeKinds: Readonly<Record<string, string>> = {
  path: 'path',
  rect: 'rectangle',
  circle: 'circle',
  ellipse: 'ellipse',
  line: 'line',
  polyline: 'polyline',
  polygon: 'polygon',
};

export interface Viewport {
  readonly width: number;
  readonly height: number;
}

/** Distance of a cubic's control points that draws a quarter circle of radius 1. */
const QUARTER = 0.5522847498307936;

/** Returns a sentence where the element's data are broken; what could be drawn has been. */
export function drawShape(e: XmlElement, into: GeometryBuilder, view: Viewport): string | undefined {
  const a = e.attributes;
  const x = (name: string): number => lengthOf(a[name], view.width);
  const y = (name: string): number => lengthOf(a[name], view.height);
  switch (e.name) {
    case 'path':
      return drawPath(a['d'] ?? '', into);
    case 'rect': {
      const w = x('width');
      const h = y('height');
      const rx = a['rx'] === undefined || a['rx'] === 'auto' ? y('ry') : x('rx');
      const ry = a['ry'] === undefined || a['ry'] === 'auto' ? rx : y('ry');
      if (w > 0 && h > 0)
        drawRectangle(into, x('x'), y('y'), w, h, Math.min(Math.max(rx, 0), w / 2), Math.min(Math.max(ry, 0), h / 2));
      return undefined;
    }
    case 'circle':
    case 'ellipse': {
      const diagonal = Math.hypot(view.width, view.height) / Math.SQRT2;
      const rx = e.name === 'circle' ? lengthOf(a['r'], diagonal) : x('rx');
      const ry = e.name === 'circle' ? rx : y('ry');
      if (rx > 0 && ry > 0) drawEllipse(into, x('cx'), y('cy'), rx, ry);
      return undefined;
    }
    case 'line':
      into.moveTo(x('x1'), y('y1'));
      into.lineTo(x('x2'), y('y2'));
      return undefined;
    default:
      return drawPoints(a['points'] ?? '', e.name === 'polygon', into);
  }
}

function drawRectangle(g: GeometryBuilder, x: number, y: number, w: number, h: number, rx: number, ry: number): void {
  if (!(rx > 0 && ry > 0)) {
    g.moveTo(x, y);
    g.lineTo(x + w, y);
    g.lineTo(x + w, y + h);
    g.lineTo(x, y + h);
    g.close();
    return;
  }
  const kx = rx * (1 - QUARTER);
  const ky = ry * (1 - QUARTER);
  const r = x + w;
  const b = y + h;
  g.moveTo(x + rx, y);
  g.lineTo(r - rx, y);
  g.curveTo(r - kx, y, r, y + ky, r, y + ry);
  g.lineTo(r, b - ry);
  g.curveTo(r, b - ky, r - kx, b, r - rx, b);
  g.lineTo(x + rx, b);
  g.curveTo(x + kx, b, x, b - ky, x, b - ry);
  g.lineTo(x, y + ry);
  g.curveTo(x, y + ky, x + kx, y, x + rx, y);
  g.close();
}

function drawEllipse(g: GeometryBuilder, cx: number, cy: number, rx: number, ry: number): void {
  const kx = rx * QUARTER;
  const ky = ry * QUARTER;
  g.moveTo(cx + rx, cy);
  g.curveTo(cx + rx, cy + ky, cx + kx, cy + ry, cx, cy + ry);
  g.curveTo(cx - kx, cy + ry, cx - rx, cy + ky, cx - rx, cy);
  g.curveTo(cx - rx, cy - ky, cx - kx, cy - ry, cx, cy - ry);
  g.curveTo(cx + kx, cy - ry, cx + rx, cy - ky, cx + rx, cy);
  g.close();
}

function drawPoints(text: string, closed: boolean, g: GeometryBuilder): string | undefined {
  const v = (text.match(/[-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?/gi) ?? []).map(Number);
  for (let i = 0; i + 1 < v.length; i += 2) {
    if (i === 0) g.moveTo(v[0] as number, v[1] as number);
    else g.lineTo(v[i] as number, v[i + 1] as number);
  }
  if (closed && v.length >= 4) g.close();
  return v.length % 2 ? 'has an odd number of coordinates' : undefined;
}

function drawPath(d: string, g: GeometryBuilder): string | undefined {
  if (!d.trim() || d.trim() === 'none') return undefined;
  const path = svgpath(d).abs().unshort().unarc();
  const broken = (path as unknown as { err: string }).err;
  let open = false;
  path.iterate((segment, _index, x, y) => {
    const v = segment as unknown as [string, number, number, number, number, number, number];
    if (v[0] !== 'M' && v[0] !== 'Z' && !open) {
      // A segment after a close begins a new subpath where the last one began.
      g.moveTo(x, y);
      open = true;
    }
    switch (v[0]) {
      case 'M':
        g.moveTo(v[1], v[2]);
        open = true;
        break;
      case 'L':
        g.lineTo(v[1], v[2]);
        break;
      case 'H':
        g.lineTo(v[1], y);
        break;
      case 'V':
        g.lineTo(x, v[1]);
        break;
      case 'C':
        g.curveTo(v[1], v[2], v[3], v[4], v[5], v[6]);
        break;
      case 'Q': // raised to a cubic
        g.curveTo(
          x + (2 / 3) * (v[1] - x),
          y + (2 / 3) * (v[2] - y),
          v[3] + (2 / 3) * (v[1] - v[3]),
          v[4] + (2 / 3) * (v[2] - v[4]),
          v[3],
          v[4],
        );
        break;
      case 'Z':
        g.close();
        open = false;
        break;
    }
  });
  return broken ? 'has path data that stop making sense part of the way' : undefined;
}
