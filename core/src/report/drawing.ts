/** What changed, as a drawing of its own: the old and the new on layers that say so, to open in any program. */
import { DxfWriter, type Point } from '../formats/dxf/write.ts';
import { applyX, applyY, scaleOf, type Matrix } from '../geometry/matrix.ts';
import type { Comparison } from '../contract/comparison.ts';
import type { ComparedParts } from '../kinds/kind.ts';
import type { Design, Lettering } from '../model/design.ts';
import { svgOf } from '../kinds/drawing/draw/svg.ts';
import { walkPart, type Sink } from '../kinds/drawing/draw/walk.ts';

const layers = { a: ['A only', 'A before'], b: ['B only', 'B after'] } as const;
const colours = { 'A only': '#B45309', 'A before': '#6D28D9', 'B only': '#0F766E', 'B after': '#1D4ED8' } as const;
/** Numbers of `$INSUNITS` by the names that readers give. */
const units: Readonly<Record<string, number>> = { in: 1, ft: 2, mm: 4, cm: 5, m: 6, px: 0 };

/** Model pages only; coordinates as in the drawings, y upwards. */
export function changesAsDxf(comparison: Pick<Comparison, 'changes' | 'unit'>, { a, b, parts }: ComparedParts): string {
  const d = new DxfWriter({
    units: units[comparison.unit] ?? 0,
    program: 'changes between two versions, written by Ovrel',
  });
  d.lineType('BEFORE', [6, -3]);
  for (const name of [...layers.a, ...layers.b])
    d.layer(name, { colour: colours[name], weight: 0.35, ...(name.startsWith('A') ? { lineType: 'BEFORE' } : {}) });
  parts.forEach(([i, j], k) => {
    const both = i >= 0 && j >= 0 && comparison.changes[k] !== undefined;
    if (a.parts[i]?.page === 0) walkPart(a, i, new DxfSink(d, a, layers.a[both ? 1 : 0]));
    if (b.parts[j]?.page === 0) walkPart(b, j, new DxfSink(d, b, layers.b[both ? 1 : 0]));
  });
  return d.finish();
}

class DxfSink implements Sink {
  private readonly into: DxfWriter;
  private readonly design: Design;
  private readonly layer: string;

  constructor(into: DxfWriter, design: Design, layer: string) {
    this.into = into;
    this.design = design;
    this.layer = layer;
  }

  path([first, count]: readonly [number, number], m: Matrix | undefined): void {
    const { points, starts, closed } = this.design.geometry;
    for (let s = first; s < first + count; s++) {
      const run: Point[] = [];
      for (let p = starts[s] as number; p < (starts[s + 1] as number); p++)
        run.push(this.at(points[2 * p] as number, points[2 * p + 1] as number, m));
      if (run.length > 1) this.into.polyline(run, closed[s] === 1, { layer: this.layer });
    }
  }

  lines(ends: readonly number[], m: Matrix | undefined): void {
    for (let i = 0; i + 3 < ends.length; i += 4)
      this.into.line(
        this.at(ends[i] as number, ends[i + 1] as number, m),
        this.at(ends[i + 2] as number, ends[i + 3] as number, m),
        { layer: this.layer },
      );
  }

  words(l: Lettering, m: Matrix): void {
    const turn = (-Math.atan2(m[1], m[0]) * 180) / Math.PI;
    for (const run of l.runs)
      this.into.text(this.at(run.x, run.y, m), l.size * 0.7 * scaleOf(m), run.text, {
        layer: this.layer,
        turn,
        middle: l.anchor === 'middle',
      });
  }

  frame(part: number): void {
    const box = this.design.parts[part]?.box;
    if (box)
      this.into.polyline(
        [
          [box[0], -box[1]],
          [box[2], -box[1]],
          [box[2], -box[3]],
          [box[0], -box[3]],
        ],
        true,
        { layer: this.layer },
      );
  }

  private at(x: number, y: number, m: Matrix | undefined): Point {
    return [m ? applyX(m, x, y) : x, -(m ? applyY(m, x, y) : y)];
  }
}

/** Both sides in one SVG drawing, as two groups of layers; first pages only. */
export function changesAsSvg({ a, b, parts }: ComparedParts): string {
  const inA = new Set(parts.map(([i]) => i));
  const inB = new Set(parts.map(([, j]) => j));
  const box = b.pages[0]?.box ?? a.pages[0]?.box;
  const side = (design: Design, of: ReadonlySet<number>, id: string): string => {
    const svg = svgOf(design, 0, { ...(box ? { box } : {}), only: (_, i) => of.has(i) });
    return `<g id="${id}" data-layer="${id}">\n${svg.slice(svg.indexOf('>\n') + 2, svg.lastIndexOf('</svg>'))}</g>\n`;
  };
  const frame = svgOf({ ...b, parts: [] }, 0, box ? { box } : {});
  const head = frame.slice(0, frame.indexOf('>\n') + 2);
  return `${head}${side(a, inA, 'A')}${side(b, inB, 'B')}</svg>\n`;
}
