/** What files are put together from, and how each is paired: parts, lines, whole pages, layers. */
import type { PartSummary } from '../contract/comparison.ts';
import type { Compared } from '../kinds/compare-files.ts';
import type { Content } from '../kinds/content.ts';
import { modelOf } from '../kinds/conversions.ts';
import { pagesAsParts, pageStep } from '../kinds/drawing/pages.ts';
import type { Kind, Step } from '../kinds/kind.ts';
import { layersAsParts } from '../kinds/picture/layers/pair.ts';
import { layerStep } from '../kinds/picture/layers/step.ts';
import { kindOf } from '../kinds/registry.ts';
import type { KindId } from '../model/card.ts';
import type { Design, Part } from '../model/design.ts';
import type { UnitId } from '../model/format.ts';
import type { LayeredPicture } from '../model/layers.ts';
import { ReadError } from '../model/problem.ts';
import type { Source } from '../model/source.ts';
import { sideOf, type Side } from './side.ts';

/** A side, and what it was read from. */
export interface UnitSide extends Side {
  /** Where its parts are pages: what is on them. */
  readonly pages?: Design;
  /** Where its parts are layers. */
  readonly layered?: LayeredPicture;
}

export interface Unit {
  readonly id: UnitId;
  /** What contents must be seen as, to be made of such. */
  readonly kind: KindId;
  /** Throws ReadError. */
  side(source: Source, content: Content): UnitSide | Promise<UnitSide>;
  step(a: UnitSide, b: UnitSide): Step | Promise<Step>;
  /** Of a part of the content, the part of the side that it belongs to; −1 for none. */
  partOf(content: Content, part: number): number;
  /** Whether a part of the side is on the layer of this name, or is it. */
  isOn(part: Part, layer: string): boolean;
  /** Of a change of a comparison, by its place, the parts of the two sides; undefined where it is of none. */
  pairOf(compared: Compared, change: number): ChangedPart | undefined;
}

/** Parts of two sides by their places: −1 where a side has none. */
export type ChangedPart = readonly [inA: number, inB: number];

const designOf = ({ design }: Content): Design => {
  if (!design) throw new ReadError('The file has no parts that could be put together.', undefined, 'unsupported');
  return design;
};

const isOnLayer = (part: Part, layer: string): boolean => part.category === layer;

const ofParts = (id: 'solid' | 'drawing' | 'table' | 'text'): Unit => ({
  id,
  kind: id,
  side: async (source, content) =>
    sideOf(source, content.kinds[0] === id ? designOf(content) : await modelOf(content, id)),
  step: (a, b) => stepOf(id, a.design, b.design),
  // Of what is seen as something nearer, parts are none of these.
  partOf: ({ kinds }, part) => (kinds[0] === id ? part : -1),
  isOn: isOnLayer,
  pairOf: ({ kind, parts }, change) => (kind === id ? parts?.parts[change] : undefined),
});

function stepOf(kind: 'solid' | 'drawing' | 'table' | 'text', a: Design, b: Design): Step {
  const step = (kindOf(kind) as Kind<Design>).step?.(a, b, {});
  if (!step) throw new Error(`${kind} cannot be followed from version to version`);
  return step;
}

const pages: Unit = {
  id: 'pages',
  kind: 'drawing',
  side: (source, content) => {
    const design = designOf(content);
    return { ...sideOf(source, pagesAsParts(design)), pages: design };
  },
  step: (a, b) => pageStep(a.pages ?? a.design, b.pages ?? b.design),
  partOf: ({ design }, part) => design?.parts[part]?.page ?? -1,
  isOn: isOnLayer,
  pairOf: ({ parts }, change) => {
    const [i = -1, j = -1] = parts?.parts[change] ?? [];
    if (!parts || (i < 0 && j < 0)) return undefined;
    const pageA = parts.a.parts[i]?.page ?? parts.b.parts[j]?.page ?? -1;
    const pageB = parts.b.parts[j]?.page ?? pageA;
    // A is seen in B's order of pages.
    return [parts.a.pages[pageA]?.place ?? pageA, pageB < parts.b.pages.length ? pageB : -1];
  },
};

const layers: Unit = {
  id: 'layers',
  kind: 'picture',
  side: async (source, { format, bytes }) => {
    const layered = await format?.layers?.(bytes);
    if (!layered) throw new ReadError('The picture has no layers.', undefined, 'unsupported');
    return { ...sideOf(source, layersAsParts(layered)), layered };
  },
  step: (a, b) => {
    if (!a.layered || !b.layered) throw new Error('a side has no layers');
    return layerStep(a.layered, b.layered);
  },
  partOf: (_content, layer) => layer,
  isOn: ({ name }, layer) => name === layer,
  pairOf: ({ comparison, outlines }, change) => {
    const found = comparison.changes[change];
    const known = outlines.layers;
    if (!found || !known) return undefined;
    if (isLayer(found.part)) return [found.partA?.index ?? -1, found.partB?.index ?? -1];
    // A place of a layer: pixels are exchanged with all of it.
    const inB = known.b.findIndex(({ name, kind }) => kind === 'layer' && name === found.part.category);
    return inB < 0 ? undefined : [known.pairs.indexOf(inB), inB];
  },
};

const isLayer = ({ kind }: PartSummary): boolean => kind === 'layer' || kind === 'group';

const units: readonly Unit[] = [ofParts('solid'), ofParts('drawing'), ofParts('table'), ofParts('text'), pages, layers];

/**
 * What contents can be put together from, the nearest that their format has; undefined where only as a whole. Models
 * that are written as text are put together by their lines.
 */
export function unitOf(...contents: readonly Content[]): Unit | undefined {
  const [first] = contents;
  const isAlike = contents.every((c) => c.kinds[0] === first?.kinds[0] && c.card === first?.card);
  if (!isAlike) return undefined;
  return first?.kinds
    .map((seen) => units.find(({ id, kind }) => kind === seen && first.format?.source?.[id] !== undefined))
    .find((unit) => unit !== undefined);
}

/** Throws ReadError where the content turns out to be damaged. */
export async function sideIn(unit: Unit, content: Content): Promise<UnitSide> {
  const source = content.format?.source?.[unit.id]?.(content.bytes, content.limits);
  if (!source) throw new ReadError('Parts of such files cannot be put together.', undefined, 'unsupported');
  return unit.side(source, content);
}
