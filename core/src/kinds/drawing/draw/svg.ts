/** A page of any design as an SVG drawing: for small pictures, for print, and to open elsewhere. */
import type { Box } from '../../../geometry/box.ts';
import { applyX, applyY, scaleOf, type Matrix } from '../../../geometry/matrix.ts';
import type { Design, Lettering, Part } from '../../../model/design.ts';
import type { Ink } from './ink.ts';
import { walk, type Sink } from './walk.ts';
import type { Opening } from './window.ts';

export interface SvgOptions {
  /** What of the page is shown; the whole page otherwise. */
  readonly box?: Box;
  /** Width of the paper in millimetres that pens are meant for. */
  readonly paper?: number;
  readonly only?: (part: Part, index: number) => boolean;
}

const PAPER = 420;
const escape = (text: string): string =>
  text
    .replace(/&/g, '&amp;')
    .replace(/</g, '&lt;')
    .replace(/>/g, '&gt;')
    .replace(/"/g, '&quot;')
    .replace(/[\0-\x08\x0b\x0c\x0e-\x1f]/g, '');

export function svgOf(design: Design, page: number, options: SvgOptions = {}): string {
  const box = options.box ?? design.pages[page]?.box ?? [0, 0, 100, 100];
  const w = box[2] - box[0] || 1;
  const h = box[3] - box[1] || 1;
  const sink = new SvgSink(design, Math.max(w, h) / (options.paper ?? PAPER));
  walk(design, page, sink, options.only);
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="${[box[0], box[1], w, h].map(number).join(' ')}" width="${number((w / Math.max(w, h)) * 1600)}" height="${number((h / Math.max(w, h)) * 1600)}" fill="none" stroke-linecap="round" stroke-linejoin="round">\n${sink.finish()}</svg>\n`;
}

/** Enough digits for any drawing, without noise. */
const number = (n: number): string => String(Number(n.toPrecision(9)));

class SvgSink implements Sink {
  private readonly out: string[] = [];
  private layer: string | undefined;
  private windows = 0;
  private readonly design: Design;
  /** Design units a millimetre of pen. */
  private readonly pen: number;

  constructor(design: Design, pen: number) {
    this.design = design;
    this.pen = pen;
  }

  finish(): string {
    return `${this.out.join('')}${this.layer === undefined ? '' : '</g>\n'}`;
  }

  path([first, count]: readonly [number, number], matrix: Matrix | undefined, ink: Ink): void {
    const { points, starts, closed } = this.design.geometry;
    const d: string[] = [];
    for (let s = first; s < first + count; s++) {
      for (let p = starts[s] as number; p < (starts[s + 1] as number); p++) {
        const x = points[2 * p] as number;
        const y = points[2 * p + 1] as number;
        d.push(
          `${p === starts[s] ? 'M' : 'L'}${number(matrix ? applyX(matrix, x, y) : x)} ${number(matrix ? applyY(matrix, x, y) : y)}`,
        );
      }
      if (closed[s]) d.push('Z');
    }
    this.put(`<path d="${d.join('')}"${this.look(ink, matrix)}${ink.fill ? ' fill-rule="evenodd"' : ''}/>`, ink);
  }

  lines(ends: readonly number[], matrix: Matrix | undefined, ink: Ink): void {
    const d: string[] = [];
    for (let i = 0; i + 3 < ends.length; i += 4) {
      const [x0 = 0, y0 = 0, x1 = 0, y1 = 0] = ends.slice(i, i + 4);
      const map = (x: number, y: number): string =>
        matrix ? `${number(applyX(matrix, x, y))} ${number(applyY(matrix, x, y))}` : `${number(x)} ${number(y)}`;
      d.push(`M${map(x0, y0)}L${map(x1, y1)}`);
    }
    if (d.length) this.put(`<path d="${d.join('')}"${this.look({ ...ink, dashes: [] }, matrix)}/>`, ink);
  }

  words(l: Lettering, matrix: Matrix, ink: Ink): void {
    const runs = l.runs.map((r) => `<tspan x="${number(r.x)}" y="${number(r.y)}">${escape(r.text)}</tspan>`).join('');
    if (runs)
      this.put(
        `<text transform="matrix(${matrix.map(number).join(' ')})" font-size="${number(l.size)}" font-family="${escape(l.family)}" font-weight="${escape(l.weight)}" text-anchor="${l.anchor}" fill="${ink.fill ?? '#000000'}">${runs}</text>`,
        ink,
      );
  }

  clip(opening: Opening | undefined): void {
    if (this.layer !== undefined) this.out.push('</g>\n');
    this.layer = undefined;
    if (!opening) {
      this.out.push('</g>\n');
      return;
    }
    const id = `w${++this.windows}`;
    const { box, outline = [box[0], box[1], box[2], box[1], box[2], box[3], box[0], box[3]] } = opening;
    const d = Array.from(
      { length: outline.length / 2 },
      (_, k) => `${k ? 'L' : 'M'}${number(outline[2 * k] as number)} ${number(outline[2 * k + 1] as number)}`,
    ).join('');
    this.out.push(`<clipPath id="${id}"><path d="${d}Z"/></clipPath><g clip-path="url(#${id})">\n`);
  }

  frame(part: number, ink: Ink): void {
    const box = this.design.parts[part]?.box;
    if (box)
      this.put(`<path d="M${box[0]} ${box[1]}H${box[2]}V${box[3]}H${box[0]}Z"${this.look(ink, undefined)}/>`, ink);
  }

  private look(ink: Ink, matrix: Matrix | undefined): string {
    const width = ink.width ? ink.width * (matrix ? scaleOf(matrix) : 1) : Math.max(ink.pen, 0.05) * this.pen;
    const dashes = ink.dashes.length
      ? ` stroke-dasharray="${ink.dashes.map((d) => number(Math.abs(d) || this.pen * 0.3)).join(' ')}"`
      : '';
    return `${ink.fill ? ` fill="${ink.fill}"` : ''}${ink.stroke ? ` stroke="${ink.stroke}" stroke-width="${number(width)}"${dashes}` : ''}${ink.opacity < 1 ? ` opacity="${ink.opacity}"` : ''}`;
  }

  private put(element: string, ink: Ink): void {
    if (ink.layer !== this.layer) {
      this.out.push(`${this.layer === undefined ? '' : '</g>\n'}<g data-layer="${escape(ink.layer)}">\n`);
      this.layer = ink.layer;
    }
    this.out.push(element, '\n');
  }
}
