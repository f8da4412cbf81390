/**
 * A page as flat arrays for a graphics processor: segments, triangles and words, each with the part that it belongs to.
 */
import earcut from 'earcut';
import { applyX, applyY, scaleOf, type Matrix } from '../../../geometry/matrix.ts';
import type { Design, Lettering } from '../../../model/design.ts';
import type { Ink } from './ink.ts';
import type { Scene, SceneHead } from './packed.ts';
import { walk, type Sink } from './walk.ts';
import { Clip, type Opening } from './window.ts';

/** Segments of one scene, at most. */
const MOST = 4_000_000;
const MOST_WORDS = 200_000;
const MOST_STYLES = 60_000;
/** Corners of one filled shape that are cut into triangles, at most. */
const MOST_CORNERS = 20_000;

export function sceneOf(design: Design, page: number): Scene {
  const sink = new SceneSink(design, page);
  walk(design, page, sink);
  return sink.finish();
}

/** A list of numbers that grows. */
class Floats {
  values = new Float32Array(4096);
  used = 0;

  push(...numbers: number[]): void {
    if (this.used + numbers.length > this.values.length) {
      const larger = new Float32Array(this.values.length * 2 + numbers.length);
      larger.set(this.values.subarray(0, this.used));
      this.values = larger;
    }
    for (const n of numbers) this.values[this.used++] = n;
  }

  finish = (): Float32Array => this.values.slice(0, this.used);
}

class SceneSink implements Sink {
  private readonly ends = new Floats();
  private readonly along = new Floats();
  private readonly style: number[] = [];
  private readonly part: number[] = [];
  private readonly corners = new Floats();
  private readonly triangleStyle: number[] = [];
  private readonly trianglePart: number[] = [];
  private readonly styles: SceneHead['styles'] = [];
  private readonly styleIndex = new Map<string, number>();
  private readonly inkIndex = new Map<Ink, readonly [number, number]>();
  private readonly layers: SceneHead['layers'] = [];
  private readonly layerIndex = new Map<string, number>();
  private readonly words_: SceneHead['words'] = [];
  private left = 0;
  /** What of the page is drawn on, less the origin; undefined for all of it. */
  private window: Clip | undefined;
  private readonly origin: readonly [number, number];
  private readonly design: Design;
  private readonly page: number;

  constructor(design: Design, page: number) {
    this.design = design;
    this.page = page;
    const box = design.pages[page]?.box ?? [0, 0, 1, 1];
    this.origin = [(box[0] + box[2]) / 2, (box[1] + box[3]) / 2];
    for (const layer of design.layers ?? [])
      this.layerOf(
        layer.name,
        layer.props['off'] === 'yes' || layer.props['frozen'] === 'yes',
        String(layer.props['colour'] ?? '') || null,
      );
  }

  finish(): Scene {
    const { design } = this;
    const page = design.pages[this.page];
    return {
      head: {
        box: [...(page?.box ?? [0, 0, 1, 1])],
        origin: [...this.origin],
        yUp: design.yUp ?? false,
        unit: design.origin.units ?? null,
        unitMillimetres: page?.unitMillimetres ?? null,
        layers: this.layers,
        styles: this.styles,
        words: this.words_,
        segments: this.style.length,
        triangles: this.triangleStyle.length,
        parts: design.parts.length,
        reduced: this.left
          ? `The page has more than can be drawn at once; ${this.left.toLocaleString('en')} lines or placements are left out or shown as frames.`
          : null,
      },
      ends: this.ends.finish(),
      along: this.along.finish(),
      style: Uint16Array.from(this.style),
      part: Uint32Array.from(this.part),
      corners: this.corners.finish(),
      triangleStyle: Uint16Array.from(this.triangleStyle),
      trianglePart: Uint32Array.from(this.trianglePart),
    };
  }

  path([first, count]: readonly [number, number], matrix: Matrix | undefined, ink: Ink, part: number): void {
    if (ink.fill) this.fill(first, count, matrix, ink, part);
    if (!ink.stroke) return;
    const { points, starts, closed } = this.design.geometry;
    const style = this.styleOf(ink, matrix, ink.stroke);
    for (let s = first; s < first + count; s++) {
      const begin = starts[s] as number;
      const end = starts[s + 1] as number;
      let along = 0;
      for (let p = begin; p < end; p++) {
        const q = p + 1 < end ? p + 1 : begin;
        if (q === begin && (!closed[s] || end - begin < 2)) continue;
        along += this.segment(
          points[2 * p] as number,
          points[2 * p + 1] as number,
          points[2 * q] as number,
          points[2 * q + 1] as number,
          matrix,
          style,
          part,
          along,
        );
      }
    }
  }

  lines(ends: readonly number[], matrix: Matrix | undefined, ink: Ink, part: number): void {
    const style = this.styleOf({ ...ink, dashes: [] }, matrix, ink.stroke ?? '#000000');
    for (let i = 0; i + 3 < ends.length; i += 4)
      this.segment(
        ends[i] as number,
        ends[i + 1] as number,
        ends[i + 2] as number,
        ends[i + 3] as number,
        matrix,
        style,
        part,
        0,
      );
  }

  words(l: Lettering, m: Matrix, ink: Ink, part: number): void {
    const style = this.styleOf({ ...ink, dashes: [] }, undefined, ink.fill ?? '#000000');
    for (const run of l.runs) {
      const w = this.window;
      const x = applyX(m, run.x, run.y) - this.origin[0];
      const y = applyY(m, run.x, run.y) - this.origin[1];
      // Words are drawn whole where they begin inside.
      if (w && !w.has(x, y)) continue;
      if (this.words_.length >= MOST_WORDS) this.left++;
      else
        this.words_.push({
          text: run.text,
          x: run.x,
          y: run.y,
          size: l.size,
          family: l.family,
          weight: l.weight,
          anchor: l.anchor,
          matrix: [m[0], m[1], m[2], m[3], m[4] - this.origin[0], m[5] - this.origin[1]],
          style,
          part,
        });
    }
  }

  clip(opening: Opening | undefined): void {
    this.window = opening && new Clip(opening, ...this.origin);
  }

  frame(part: number, ink: Ink): void {
    this.left++;
    const box = this.design.parts[part]?.box;
    if (!box) return;
    const style = this.styleOf({ ...ink, dashes: [] }, undefined, ink.stroke ?? '#000000');
    for (const [x0, y0, x1, y1] of [
      [box[0], box[1], box[2], box[1]],
      [box[2], box[1], box[2], box[3]],
      [box[2], box[3], box[0], box[3]],
      [box[0], box[3], box[0], box[1]],
    ] as const)
      this.segment(x0, y0, x1, y1, undefined, style, part, 0);
  }

  /** Length of the segment, in design units. */
  private segment(
    x0: number,
    y0: number,
    x1: number,
    y1: number,
    m: Matrix | undefined,
    style: number,
    part: number,
    along: number,
  ): number {
    if (this.style.length >= MOST) {
      this.left++;
      return 0;
    }
    const ax = (m ? applyX(m, x0, y0) : x0) - this.origin[0];
    const ay = (m ? applyY(m, x0, y0) : y0) - this.origin[1];
    const bx = (m ? applyX(m, x1, y1) : x1) - this.origin[0];
    const by = (m ? applyY(m, x1, y1) : y1) - this.origin[1];
    const length = Math.hypot(bx - ax, by - ay);
    if (!this.window) this.put(ax, ay, bx, by, style, part, along);
    else
      for (const [from, to] of this.window.line(ax, ay, bx, by))
        this.put(
          ax + from * (bx - ax),
          ay + from * (by - ay),
          ax + to * (bx - ax),
          ay + to * (by - ay),
          style,
          part,
          along + from * length,
        );
    return length;
  }

  private put(ax: number, ay: number, bx: number, by: number, style: number, part: number, along: number): void {
    this.ends.push(ax, ay, bx, by);
    this.along.push(along);
    this.style.push(style);
    this.part.push(part);
  }

  /** Rings of a filled shape: those inside another are holes (by winding-free containment of areas, largest first). */
  private fill(first: number, count: number, m: Matrix | undefined, ink: Ink, part: number): void {
    const { points, starts } = this.design.geometry;
    const style = this.styleOf({ ...ink, dashes: [], width: 0, pen: 0 }, undefined, ink.fill ?? '#000000');
    const rings: Float64Array[] = [];
    let corners = 0;
    for (let s = first; s < first + count; s++) {
      const ring = points.slice(2 * (starts[s] as number), 2 * (starts[s + 1] as number));
      if (ring.length >= 6) rings.push(ring);
      corners += ring.length / 2;
    }
    if (corners > MOST_CORNERS || this.triangleStyle.length > MOST) {
      this.left++;
      return;
    }
    const joined = rings.length ? rings : this.chained(first, count);
    for (const { outer, holes } of nested(joined)) {
      const flat = [...outer];
      const at: number[] = [];
      for (const hole of holes) {
        at.push(flat.length / 2);
        flat.push(...hole);
      }
      const order = earcut(flat, at);
      for (let i = 0; i + 2 < order.length; i += 3) {
        const corners = order.slice(i, i + 3).flatMap((k) => {
          const x = flat[2 * k] as number;
          const y = flat[2 * k + 1] as number;
          return [(m ? applyX(m, x, y) : x) - this.origin[0], (m ? applyY(m, x, y) : y) - this.origin[1]];
        });
        this.triangles(this.window ? this.window.triangle(corners) : corners, style, part);
      }
    }
  }

  private triangles(corners: readonly number[], style: number, part: number): void {
    for (let i = 0; i < corners.length; i += 6) {
      this.corners.push(...corners.slice(i, i + 6));
      this.triangleStyle.push(style);
      this.trianglePart.push(part);
    }
  }

  /** Edges that follow one another, as hatches give their boundary, in one ring. */
  private chained(first: number, count: number): Float64Array[] {
    const { points, starts } = this.design.geometry;
    const ring: number[] = [];
    for (let s = first; s < first + count; s++)
      ring.push(...points.subarray(2 * (starts[s] as number), 2 * (starts[s + 1] as number)));
    return ring.length >= 6 ? [Float64Array.from(ring)] : [];
  }

  private styleOf(ink: Ink, matrix: Matrix | undefined, colour: string): number {
    const scale = matrix ? scaleOf(matrix) : 1;
    const known = this.inkIndex.get(ink);
    if (known && known[1] === scale) return known[0];
    const style = {
      colour,
      pen: ink.pen,
      width: ink.width * scale,
      dashes: [...ink.dashes],
      opacity: ink.opacity,
      layer: this.layerOf(ink.layer, false, null),
    };
    const key = JSON.stringify(style);
    const found = this.styleIndex.get(key);
    const index = found ?? (this.styles.length < MOST_STYLES ? this.styles.push(style) - 1 : 0);
    if (found === undefined) this.styleIndex.set(key, index);
    if (ink.fill === undefined || ink.stroke === undefined) this.inkIndex.set(ink, [index, scale]);
    return index;
  }

  private layerOf(name: string, hidden: boolean, colour: string | null): number {
    const known = this.layerIndex.get(name);
    if (known !== undefined) return known;
    this.layers.push({ name, hidden, colour });
    this.layerIndex.set(name, this.layers.length - 1);
    return this.layers.length - 1;
  }
}

/** Rings with those that lie within them, by the even-odd rule: an island in a hole is a shape of its own. */
function nested(rings: readonly Float64Array[]): { outer: Float64Array; holes: Float64Array[] }[] {
  const [only] = rings;
  if (rings.length === 1 && only) return [{ outer: only, holes: [] }];
  const sorted = [...rings].sort((p, q) => Math.abs(area(q)) - Math.abs(area(p)));
  const out: { outer: Float64Array; holes: Float64Array[] }[] = [];
  for (const ring of sorted) {
    const around = sorted.filter(
      (other) =>
        other !== ring &&
        Math.abs(area(other)) > Math.abs(area(ring)) &&
        inside(ring[0] as number, ring[1] as number, other),
    );
    const holder = around.length % 2 ? [...out].reverse().find((o) => around.includes(o.outer)) : undefined;
    if (holder) holder.holes.push(ring);
    else out.push({ outer: ring, holes: [] });
  }
  return out;
}

function area(ring: Float64Array): number {
  let sum = 0;
  for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2)
    sum += (ring[j] as number) * (ring[i + 1] as number) - (ring[i] as number) * (ring[j + 1] as number);
  return sum / 2;
}

function inside(x: number, y: number, ring: Float64Array): boolean {
  let odd = false;
  for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
    const xi = ring[i] as number;
    const yi = ring[i + 1] as number;
    const xj = ring[j] as number;
    const yj = ring[j + 1] as number;
    if (yi > y !== yj > y && x < ((xj - xi) * (y - yi)) / (yj - yi) + xi) odd = !odd;
  }
  return odd;
}
