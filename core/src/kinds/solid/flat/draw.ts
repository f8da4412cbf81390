/** A model drawn flat: what a plane cuts, and what is seen beyond it, without what is hidden. */
import { GeometryBuilder } from '../../../geometry/builder.ts';
import { boxOfPoints, type Mesh, type Point3 } from '../../../mesh/mesh.ts';
import { slicesOf } from '../../../mesh/slice.ts';
import { dot } from '../../../mesh/vector.ts';
import { noTraits, plainPart, type Design, type Page, type Part } from '../../../model/design.ts';
import { defaultLimits } from '../../../model/limits.ts';
import type { Solid } from '../../../model/solid.ts';
import { surfaceOfPart } from '../surfaces.ts';
import { DepthSheet, type Flattened } from './depth.ts';
import { FLAT } from './format.ts';
import { drawnEdges } from './edges.ts';
import type { Line } from './line.ts';
import { Paper } from './paper.ts';
import type { FlatView } from './views.ts';

/** Pixels of the longer side, by which it is found out what is hidden. */
const FINE = 1600;
/** Share of the sheet around what is drawn. */
const MARGIN = 0.05;
/** Longest and shortest that a line is looked at piece by piece, in pixels. */
const STEP = 1;

/** Pages in the order of the views; those on which nothing is seen are left out. */
export function flatDesign(solid: Solid, views: readonly FlatView[]): Design {
  const geometry = new GeometryBuilder(defaultLimits.points);
  const pages: Page[] = [];
  const parts: Part[] = [];
  const unit = solid.pages[0]?.unitMillimetres;
  for (const view of views) {
    const drawn = new Drawing(solid, view).lines();
    if (drawn.size === 0) continue;
    const page = pages.length;
    const all = [...drawn.values()].flatMap(({ cut, seen }) => [...cut, ...seen]);
    const box = framed(all);
    const size = Math.max(box[2] - box[0], box[3] - box[1]);
    pages.push({ name: view.name, box, ...(unit === undefined ? {} : { unitMillimetres: unit }) });
    for (const [index, { cut, seen }] of drawn)
      for (const [lines, width] of [
        [cut, CUT],
        [seen, SEEN],
      ] as const)
        if (lines.length > 0) parts.push(partOf(solid.parts[index] as Part, lines, width * size, page, geometry));
  }
  return {
    format: FLAT,
    traits: noTraits,
    origin: solid.origin,
    pages,
    parts,
    definitions: [],
    geometry: geometry.finish(),
    notes: [],
    sequential: false,
    yUp: true,
  };
}

/** Widths of lines as shares of the longer side of the sheet: what is cut stands out. */
const CUT = 1 / 1500;
const SEEN = 1 / 1900;

function partOf(of: Part, lines: readonly Line[], width: number, page: number, geometry: GeometryBuilder): Part {
  const firstSubpath = geometry.subpathCount;
  for (const [x0, y0, x1, y1] of lines) {
    geometry.moveTo(x0, y0);
    geometry.lineTo(x1, y1);
  }
  return plainPart({
    kind: 'path',
    name: of.name,
    key: undefined,
    category: of.category,
    page,
    firstSubpath,
    subpaths: geometry.subpathCount - firstSubpath,
    box: boxOfLines(lines),
    props: { stroke: '#17212b', fill: 'none', 'stroke-width': width },
  });
}

function boxOfLines(lines: readonly Line[]): [number, number, number, number] {
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const [ax, ay, bx, by] of lines) {
    [x0, y0] = [Math.min(x0, ax, bx), Math.min(y0, ay, by)];
    [x1, y1] = [Math.max(x1, ax, bx), Math.max(y1, ay, by)];
  }
  return [x0, y0, x1, y1];
}

function framed(lines: readonly Line[]): [number, number, number, number] {
  const [x0, y0, x1, y1] = boxOfLines(lines);
  const margin = MARGIN * Math.max(x1 - x0, y1 - y0);
  return [x0 - margin, y0 - margin, x1 + margin, y1 + margin];
}

interface Lines {
  readonly cut: readonly Line[];
  readonly seen: readonly Line[];
}

class Drawing {
  private readonly view: FlatView;
  private readonly meshes = new Map<number, Mesh>();
  private left = 0;
  private top = 0;
  /** Pixels a unit. */
  private scale = 1;

  constructor(solid: Solid, view: FlatView) {
    this.view = view;
    solid.parts.forEach((part, k) => {
      const mesh = surfaceOfPart(solid, part);
      const box = mesh && boxOfPoints(mesh.points);
      // What is cut away as a whole is not there.
      if (mesh && box && this.reaches(box)) this.meshes.set(k, mesh);
    });
  }

  /** By the number of a part. */
  lines(): ReadonlyMap<number, Lines> {
    const sheet = this.sheet();
    if (!sheet) return new Map();
    const paper = new Paper(FINE / this.scale);
    const flat = new Map<number, Flattened>();
    for (const [k, mesh] of this.meshes) {
      const flattened = { places: this.placesOf(mesh), triangles: mesh.triangles };
      flat.set(k, flattened);
      sheet.fill(flattened);
    }
    // What is cut goes before edges that lie on it.
    for (const [k, mesh] of this.meshes) for (const line of this.cutOf(mesh)) paper.draw(`cut ${k}`, line);
    for (const [k, mesh] of this.meshes)
      for (const line of this.seenOf(mesh, flat.get(k) as Flattened, sheet)) paper.draw(`seen ${k}`, line);
    const drawn = paper.lines();
    const of = (k: number): Lines => ({ cut: drawn.get(`cut ${k}`) ?? [], seen: drawn.get(`seen ${k}`) ?? [] });
    const out = [...this.meshes.keys()].map((k) => [k, of(k)] as const);
    return new Map(out.filter(([, { cut, seen }]) => cut.length + seen.length > 0));
  }

  private reaches(box: readonly number[]): boolean {
    const { towards, cut } = this.view;
    if (cut === undefined) return true;
    const least = towards.reduce((sum, value, axis) => sum + value * (box[value > 0 ? axis : axis + 3] as number), 0);
    return least <= cut;
  }

  /** Undefined where there is nothing to be seen. */
  private sheet(): DepthSheet | undefined {
    const { right, up, cut } = this.view;
    let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
    for (const { points } of this.meshes.values())
      for (let p = 0; p < points.length; p += 3) {
        const point: Point3 = [points[p] as number, points[p + 1] as number, points[p + 2] as number];
        const [x, y] = [dot(point, right), -dot(point, up)];
        [x0, y0, x1, y1] = [Math.min(x0, x), Math.min(y0, y), Math.max(x1, x), Math.max(y1, y)];
      }
    const size = Math.max(x1 - x0, y1 - y0);
    if (!(size > 0)) return undefined;
    this.scale = FINE / size;
    [this.left, this.top] = [x0 - 1 / this.scale, y0 - 1 / this.scale];
    const across = (length: number): number => Math.ceil(length * this.scale) + 3;
    return new DepthSheet(across(x1 - x0), across(y1 - y0), cut ?? Infinity);
  }

  private placesOf({ points }: Mesh): Float64Array {
    const { right, up, towards } = this.view;
    const places = new Float64Array(points.length);
    for (let p = 0; p < points.length; p += 3) {
      const point: Point3 = [points[p] as number, points[p + 1] as number, points[p + 2] as number];
      places[p] = (dot(point, right) - this.left) * this.scale;
      places[p + 1] = (-dot(point, up) - this.top) * this.scale;
      places[p + 2] = dot(point, towards);
    }
    return places;
  }

  private cutOf(mesh: Mesh): Line[] {
    const { right, up, towards, cut } = this.view;
    if (cut === undefined) return [];
    const ends = slicesOf(mesh, { normal: towards, at: cut });
    const out: Line[] = [];
    for (let k = 0; k < ends.length; k += 6) {
      const [p, q] = [0, 3].map((n): Point3 => [
        ends[k + n] as number,
        ends[k + n + 1] as number,
        ends[k + n + 2] as number,
      ]);
      if (!p || !q) continue;
      out.push([dot(p, right), -dot(p, up), dot(q, right), -dot(q, up)]);
    }
    return out;
  }

  private seenOf(mesh: Mesh, { places }: Flattened, sheet: DepthSheet): Line[] {
    const edges = drawnEdges(mesh, this.view.towards);
    const out: Line[] = [];
    for (let e = 0; e < edges.length; e += 2) {
      const whole = this.kept(places, 3 * (edges[e] as number), 3 * (edges[e + 1] as number));
      if (!whole) continue;
      for (const [from, to] of this.visible(whole, sheet)) out.push(this.onPaper(whole, from, to));
    }
    return out;
  }

  /** Of an edge, what is not cut away: x, y and depth of both ends. */
  private kept(places: Float64Array, p: number, q: number): Edge | undefined {
    const cut = this.view.cut ?? Infinity;
    const end = (at: number): Point3 => [places[at] as number, places[at + 1] as number, places[at + 2] as number];
    const [from, to] = [end(p), end(q)];
    if (from[2] <= cut && to[2] <= cut) return { from, to };
    if (from[2] > cut && to[2] > cut) return undefined;
    const share = (cut - from[2]) / (to[2] - from[2]);
    const middle = between(from, to, share);
    return from[2] > cut ? { from: middle, to } : { from, to: middle };
  }

  /** Stretches of an edge that nothing hides, from 0 to 1. */
  private visible({ from, to }: Edge, sheet: DepthSheet): (readonly [number, number])[] {
    const length = Math.hypot(to[0] - from[0], to[1] - from[1]);
    const steps = Math.max(1, Math.ceil(length / STEP));
    const slack = 1.5 / this.scale;
    const out: [number, number][] = [];
    for (let k = 0; k < steps; k++) {
      const [x, y, depth] = between(from, to, (k + 0.5) / steps);
      if (sheet.hides(x, y, depth, slack)) continue;
      const last = out.at(-1);
      if (last && last[1] === k / steps) last[1] = (k + 1) / steps;
      else out.push([k / steps, (k + 1) / steps]);
    }
    // What shows for a pixel at a corner is no line.
    return out.filter(([p, q]) => (q - p) * length > 2 * STEP || q - p === 1);
  }

  private onPaper({ from, to }: Edge, p: number, q: number): Line {
    const [a, b] = [between(from, to, p), between(from, to, q)];
    const x = (pixels: number): number => pixels / this.scale + this.left;
    const y = (pixels: number): number => pixels / this.scale + this.top;
    return [x(a[0]), y(a[1]), x(b[0]), y(b[1])];
  }
}

interface Edge {
  readonly from: Point3;
  readonly to: Point3;
}

const between = (p: Point3, q: Point3, share: number): Point3 => [
  p[0] + share * (q[0] - p[0]),
  p[1] + share * (q[1] - p[1]),
  p[2] + share * (q[2] - p[2]),
];
