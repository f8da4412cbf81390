/** Walks over everything that a page shows, placements opened, in drawing order. */
import { boxAround } from '../../../geometry/box.ts';
import { multiply, type Matrix } from '../../../geometry/matrix.ts';
import type { Design, Lettering, Part } from '../../../model/design.ts';
import { hatchLines } from './hatch.ts';
import { inkOf, type Ink } from './ink.ts';
import type { Opening } from './window.ts';

/** Takes what is drawn. Matrices lead to the page. `part` is the index of the part on the page that it belongs to. */
export interface Sink {
  path(subpaths: readonly [first: number, count: number], matrix: Matrix | undefined, ink: Ink, part: number): void;
  /** Separate lines: x0, y0, x1, y1 each. */
  lines(ends: readonly number[], matrix: Matrix | undefined, ink: Ink, part: number): void;
  words(lettering: Lettering, matrix: Matrix, ink: Ink, part: number): void;
  /** What follows is seen through this part of the page only; undefined for the whole page again. */
  clip?(opening: Opening | undefined): void;
  /** A placement whose content is left out, because the budget is spent. */
  frame(part: number, ink: Ink): void;
}

/** Points that opened placements may draw, in all: so many, and so many more for each part, up to a bound. */
const BASE = 300_000;
const EACH = 60;
const MOST = 6_000_000;
const DEEPEST = 32;

export function walk(design: Design, page: number, sink: Sink, only?: (part: Part, index: number) => boolean): void {
  const walker = new Walker(design, sink);
  design.parts.forEach((part, index) => {
    if (part.page === page && (!only || only(part, index))) walker.part(part, index, undefined, undefined, 0);
  });
}

/** The same for one part alone. */
export function walkPart(design: Design, index: number, sink: Sink): void {
  const part = design.parts[index];
  if (part) new Walker(design, sink).part(part, index, undefined, undefined, 0);
}

class Walker {
  private spent = 0;
  /** Layers that the window looked through leaves out. */
  private without: ReadonlySet<string> | undefined;
  private readonly inks = new Map<Part['props'], Map<string, Ink>>();
  private readonly hatches = new Map<Part, number[]>();
  private readonly design: Design;
  private readonly sink: Sink;
  private readonly budget: number;

  constructor(design: Design, sink: Sink) {
    this.design = design;
    this.sink = sink;
    // A small file that places much within much must not take more time than its size warrants.
    this.budget = Math.min(MOST, BASE + EACH * (design.parts.length + design.geometry.points.length / 2));
  }

  part(part: Part, index: number, matrix: Matrix | undefined, outer: Ink | undefined, depth: number): void {
    const ink = outer ? inkOf(this.design, part, outer) : this.inkAtTop(part);
    if (ink.hidden || this.without?.has(ink.layer)) return;
    const { sink } = this;
    if (part.window && depth === 0 && part.page > 0) this.through(part, index, part.window);
    if (part.subpaths) {
      if (depth) this.spent += this.points(part);
      // A hatch's outline is not drawn; what fills it is.
      if (part.hatch) sink.lines(this.fillingOf(part), matrix, ink, index);
      else sink.path([part.firstSubpath, part.subpaths], matrix, ink, index);
    }
    if (part.lettering)
      sink.words(part.lettering, matrix ? multiply(matrix, part.transform) : part.transform, ink, index);
    const content = part.definition === undefined ? undefined : this.design.definitions[part.definition]?.content;
    if (!content || depth >= DEEPEST) return;
    if (this.spent > this.budget) {
      if (depth === 0) sink.frame(index, ink);
      return;
    }
    const inner = matrix ? multiply(matrix, part.transform) : part.transform;
    for (const child of content) {
      if (this.spent++ > this.budget) break;
      this.part(child, index, inner, ink, depth + 1);
    }
  }

  /** The first page as a window of another shows it. What is seen belongs to the window. */
  private through(part: Part, index: number, { matrix, clip, outline, without }: NonNullable<Part['window']>): void {
    this.sink.clip?.({ box: clip, ...(outline ? { outline } : {}) });
    this.without = without;
    for (const seen of this.design.parts) {
      if (seen.page !== 0 || seen.window || this.spent > this.budget) continue;
      const ink = this.inkAtTop(seen);
      const box = seen.box && boxAround(seen.box, matrix);
      if (ink.hidden || !box || box[0] > clip[2] || box[2] < clip[0] || box[1] > clip[3] || box[3] < clip[1]) continue;
      this.part(seen, index, matrix, undefined, 1);
    }
    this.without = undefined;
    this.sink.clip?.(undefined);
  }

  private points(part: Part): number {
    const { starts } = this.design.geometry;
    return (starts[part.firstSubpath + part.subpaths] ?? 0) - (starts[part.firstSubpath] ?? 0);
  }

  private fillingOf(part: Part): readonly number[] {
    const known = this.hatches.get(part);
    if (known) return known;
    const lines = hatchLines(this.design, part);
    this.hatches.set(part, lines);
    return lines;
  }

  private inkAtTop(part: Part): Ink {
    const byLayer = this.inks.get(part.props) ?? new Map<string, Ink>();
    const key = `${part.category}|${part.lettering ? 1 : 0}`;
    const known = byLayer.get(key);
    if (known) return known;
    const ink = inkOf(this.design, part);
    byLayer.set(key, ink);
    this.inks.set(part.props, byLayer);
    return ink;
  }
}
