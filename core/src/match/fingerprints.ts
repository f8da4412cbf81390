/** Fingerprints by which equal parts find each other: what a part is (form), how it looks, and where it is. */
import { Hash } from '../geometry/hash.ts';
import { diagonal, unite, type Box } from '../geometry/box.ts';
import type { Design, Part } from '../model/design.ts';

export interface Prints {
  /** Geometry relative to its own corner, words, definition: equal for a copy at another place. */
  readonly form: string[];
  /** Style and other properties. */
  readonly look: string[];
  /** Corner of the part, rounded. */
  readonly place: string[];
}

/** Parts that may be written as one another without a visible change are of one family. */
export const familyOf = (part: Part): string =>
  ['rectangle', 'circle', 'ellipse', 'line', 'polyline', 'polygon', 'path'].includes(part.kind) ? 'shape' : part.kind;

/** Distance in design units below which two coordinates count as the same: a hundred-thousandth of the larger drawing. */
export function toleranceFor(a: Design, b: Design): number {
  const extent = (d: Design): number => {
    const box = d.parts.reduce<Box | undefined>((sum, p) => (p.box ? unite(sum, p.box) : sum), d.pages[0]?.box);
    return box ? diagonal(box) : 0;
  };
  return Math.max(extent(a), extent(b)) * 1e-5 || 1e-9;
}

/** Where a part stands: the place of its first words, or else the corner of its box. */
export function anchorOf(part: Part): readonly [number, number] | undefined {
  const run = part.lettering?.runs[0];
  const t = part.transform;
  if (run) return [t[0] * run.x + t[2] * run.y + t[4], t[1] * run.x + t[3] * run.y + t[5]];
  return part.box ? [part.box[0], part.box[1]] : undefined;
}

export function fingerprints(design: Design, tolerance: number): Prints {
  const form: string[] = [], look: string[] = [], place: string[] = [];
  for (const part of design.parts) {
    form.push(formPrint(design, part, tolerance));
    look.push(lookPrint(part));
    const anchor = anchorOf(part);
    place.push(anchor ? new Hash().number(anchor[0], tolerance).number(anchor[1], tolerance).digest() : 'nowhere');
  }
  return { form, look, place };
}

function formPrint(design: Design, part: Part, tolerance: number): string {
  const hash = new Hash().text(familyOf(part));
  if (part.definition !== undefined) hash.text(design.definitions[part.definition]?.fingerprint ?? '');
  if (part.lettering) {
    const t = part.transform;
    hash.text(wordsOf(part)).number(t[0], 1e-3).number(t[1], 1e-3).number(t[2], 1e-3).number(t[3], 1e-3);
  }
  if (typeof part.props['source'] === 'string') hash.text(part.props['source']);
  const { points, starts, closed } = design.geometry;
  const originX = part.box?.[0] ?? 0, originY = part.box?.[1] ?? 0;
  for (let s = part.firstSubpath; s < part.firstSubpath + part.subpaths; s++) {
    const end = starts[s + 1] as number;
    hash.int(closed[s] as number);
    for (let p = starts[s] as number; p < end; p++) {
      hash.number((points[2 * p] as number) - originX, tolerance).number((points[2 * p + 1] as number) - originY, tolerance);
    }
  }
  return hash.digest();
}

function lookPrint(part: Part): string {
  const hash = new Hash().text(part.kind);
  for (const name of Object.keys(part.props).sort()) hash.text(name).text(String(part.props[name]));
  return hash.digest();
}

export const wordsOf = (part: Part): string => part.lettering?.runs.map((r) => r.text).join('\n') ?? '';
