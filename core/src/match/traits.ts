/**
 * What pairing looks at, for every part of a design: what it is (form), how it looks, where it is; as numbers in flat
 * arrays.
 */
import { diagonal, unite, type Box } from '../geometry/box.ts';
import { Hash } from '../geometry/hash.ts';
import type { Point3 } from '../mesh/mesh.ts';
import { placePoint } from '../mesh/placing.ts';
import { printOf } from '../mesh/print.ts';
import type { Design, Part, Scalar } from '../model/design.ts';
import { surfacesOf } from '../model/solid.ts';

export interface Traits {
  /** Equal for the same thing at another place: outline whichever way it is drawn, words, definition. */
  readonly form: Float64Array;
  /** Style and other properties. */
  readonly look: Float64Array;
  /** Rounded anchor. */
  readonly place: Float64Array;
  /** Form, look and place in one. */
  readonly whole: Float64Array;
  readonly family: readonly string[];
  /** Where each part stands; NaN for parts without a place. */
  readonly x: Float64Array;
  readonly y: Float64Array;
  /** 0 where a design is flat. */
  readonly z: Float64Array;
}

const shapes: ReadonlySet<string> = new Set([
  'rectangle',
  'circle',
  'ellipse',
  'line',
  'polyline',
  'polygon',
  'path',
  'arc',
  'spline',
  '3D polyline',
]);

/** Parts that may be written as one another without a visible change are of one family. */
export const familyOf = ({ kind, space }: Part): string => {
  if (space) return 'surface';
  return shapes.has(kind) ? 'shape' : kind;
};

export const wordsOf = (part: Part): string =>
  part.lettering?.words ?? part.lettering?.runs.map((r) => r.text).join('\n') ?? '';

/** Where a part stands in space; flat designs have no height. */
function anchorOf(part: Part): Point3 | undefined {
  const { space } = part;
  if (space && part.definition !== undefined) return placePoint(space.placing, [0, 0, 0]);
  if (space && part.box) return [part.box[0], part.box[1], space.rise[0]];
  const flat = flatAnchorOf(part);
  return flat && [...flat, 0];
}

/** Where a part stands: the place of its first words, the origin of a placement, or else the corner of its box. */
export function flatAnchorOf(part: Part): readonly [number, number] | undefined {
  const run = part.lettering?.runs[0];
  const t = part.transform;
  if (run) return [t[0] * run.x + t[2] * run.y + t[4], t[1] * run.x + t[3] * run.y + t[5]];
  if (isPlaced(part)) return [t[4], t[5]];
  return part.box ? [part.box[0], part.box[1]] : undefined;
}

/** A placement whose content is kept with its definition: its own transform says where it is. */
export const isPlaced = (part: Part): boolean => part.definition !== undefined && part.subpaths === 0;

export function extentOf(design: Design): Box | undefined {
  return design.parts.reduce<Box | undefined>((sum, p) => (p.box ? unite(sum, p.box) : sum), design.pages[0]?.box);
}

/** Pairs of 32-bit lanes as one number that can be compared and used as a key: 53 bits. */
const join = (a: number, b: number): number => (a >>> 0) * 2097152 + ((b >>> 0) >>> 11);

const mix = (h: number): number => {
  let k = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
  k = Math.imul(k ^ (k >>> 13), 0xc2b2ae35);
  return k ^ (k >>> 16);
};

export const hashWords = (text: string): number => {
  let a = 0x811c9dc5;
  let b = 0x9747b28c;
  for (let i = 0; i < text.length; i++) {
    const c = text.charCodeAt(i);
    a = Math.imul(a ^ c, 0x01000193);
    b = Math.imul(b ^ c, 0x5bd1e995) ^ (b >>> 15);
  }
  return join(mix(a), mix(b));
};

/**
 * Coordinates are rounded to so many tolerances before they are compared by hash; what falls apart by that is found
 * by place.
 */
const COARSE = 16;

/**
 * `classes` are numbers of the definitions, equal for equal content on both sides; by default their fingerprints
 * count.
 */
export function traitsOf(design: Design, tolerance: number, classes?: readonly number[]): Traits {
  const n = design.parts.length;
  const traits = {
    form: new Float64Array(n),
    look: new Float64Array(n),
    place: new Float64Array(n),
    whole: new Float64Array(n),
    x: new Float64Array(n),
    y: new Float64Array(n),
    z: new Float64Array(n),
  };
  const looks = new Map<Readonly<Record<string, Scalar>>, number>();
  const prints = classes?.map((n) => n * 7919 + 17) ?? design.definitions.map((d) => hashWords(d.fingerprint));
  const family: string[] = [];
  const step = tolerance * COARSE;
  const surfaces = surfacesOf(design).map((mesh) => printOf(mesh, step));
  design.parts.forEach((part, i) => {
    const anchor = anchorOf(part);
    family.push(familyOf(part));
    traits.x[i] = anchor?.[0] ?? NaN;
    traits.y[i] = anchor?.[1] ?? NaN;
    traits.z[i] = anchor?.[2] ?? NaN;
    traits.form[i] = formOf(design, part, step, prints, surfaces);
    let look = looks.get(part.props);
    if (look === undefined) looks.set(part.props, (look = lookOf(part.props)));
    traits.look[i] = look;
    traits.place[i] = anchor ? placeOf(anchor, step) : 0;
    traits.whole[i] = together(traits.form[i], look, traits.place[i]);
  });
  return { ...traits, family };
}

function placeOf([x, y, z]: Point3, step: number): number {
  const flat = pointHash(Math.round(x / step), Math.round(y / step));
  return z === 0 ? flat : together(flat, 0, Math.round(z / step));
}

const pointHash = (x: number, y: number): number =>
  join(mix(Math.imul(x | 0, 0x9e3779b1) ^ (y | 0)), mix(Math.imul(y | 0, 0x85ebca77) ^ (x | 0) ^ 0x27d4eb2f));

/** One number from three. */
function together(a: number, b: number, c: number): number {
  const fold = (n: number): number => (n | 0) ^ Math.floor(n / 4294967296);
  const x = mix(fold(a) ^ 0x51ed270b);
  const y = mix(fold(b) ^ x);
  const z = mix(fold(c) ^ y);
  return join(z, mix(z ^ Math.imul(x, 31) ^ fold(b)));
}

function lookOf(props: Readonly<Record<string, Scalar>>): number {
  const hash = new Hash();
  for (const name of Object.keys(props).sort()) hash.text(name).text(String(props[name]));
  return parseInt(hash.digest().slice(0, 13), 16);
}

/** Where the axes stand in a placing. */
const AXES = [0, 1, 2, 4, 5, 6, 8, 9, 10] as const;

/**
 * The sum of the hashes of all segments, each the same from either end: a line turned round, a closed shape begun
 * elsewhere, and subpaths in another order have the same form.
 */
function formOf(
  design: Design,
  part: Part,
  step: number,
  prints: readonly number[],
  surfaces: readonly number[],
): number {
  let a = 0;
  let b = 0;
  const add = (h: number): void => {
    a = (a + (h | 0)) | 0;
    b = (b + mix((h | 0) ^ 0x5f356495)) | 0;
  };
  const addNumber = (n: number): void => add(mix((n | 0) ^ Math.imul(Math.floor(n / 4294967296) | 0, 0x9e3779b1)));
  add(mix(hashWords(familyOf(part))));
  const t = part.transform;
  if (part.definition !== undefined) addNumber(prints[part.definition] ?? 0);
  if (part.lettering) addNumber(hashWords(wordsOf(part)));
  if (part.space && part.definition === undefined) addNumber(surfaces[part.space.mesh] ?? 0);
  else if (part.space) for (const k of AXES) add(mix(Math.round((part.space.placing[k] as number) * 1000) + k * 7919));
  else if (part.lettering || isPlaced(part))
    for (let k = 0; k < 4; k++) add(mix(Math.round((t[k] as number) * 1000) + k * 7919));
  const { source, content } = part.props;
  if (typeof source === 'string') addNumber(hashWords(source));
  if (typeof content === 'string') addNumber(hashWords(content));
  const { points, starts, closed } = design.geometry;
  const ox = part.box?.[0] ?? 0;
  const oy = part.box?.[1] ?? 0;
  for (let s = part.firstSubpath; s < part.firstSubpath + part.subpaths; s++) {
    const begin = starts[s] as number;
    const end = starts[s + 1] as number;
    let px = Math.round(((points[2 * begin] as number) - ox) / step);
    let py = Math.round(((points[2 * begin + 1] as number) - oy) / step);
    const firstX = px;
    const firstY = py;
    for (let p = begin + 1; p < end; p++) {
      const x = Math.round(((points[2 * p] as number) - ox) / step);
      const y = Math.round(((points[2 * p + 1] as number) - oy) / step);
      add(segment(px, py, x, y));
      px = x;
      py = y;
    }
    if (closed[s] && (px !== firstX || py !== firstY)) add(segment(px, py, firstX, firstY));
  }
  return join(a, b);
}

function segment(x0: number, y0: number, x1: number, y1: number): number {
  const p = mix(Math.imul(x0 | 0, 0x9e3779b1) ^ Math.imul(y0 | 0, 0x85ebca77));
  const q = mix(Math.imul(x1 | 0, 0x9e3779b1) ^ Math.imul(y1 | 0, 0x85ebca77));
  return mix((p + q) | 0) ^ Math.imul(p ^ q, 0x27d4eb2f);
}

export const diagonalOf = (design: Design): number => {
  const box = extentOf(design);
  return box ? diagonal(box) : 0;
};
