/**
 * Who drew what: for each part of a version the versions that touched it, from the one that put it in; and what was
 * there once and is gone. Made step by step along a history, from what is known of the version before.
 */
import type { Step } from '../kinds/kind.ts';
import type { Design, Part } from '../model/design.ts';

/** Positions in `versions`. */
type Story = readonly number[];

/** A part that is no longer there. */
export interface GonePart {
  /** Position in `versions` of the last version that had it, and of the one that took it out. */
  readonly last: number;
  readonly out: number;
  /** Position among the parts of that last version. */
  readonly part: number;
  readonly kind: string;
  readonly name: string;
  readonly category: string;
  readonly page: string;
  readonly box: readonly [number, number, number, number] | null;
}

export interface DrawnBy {
  /** Ids of versions that stories tell of. */
  readonly versions: readonly string[];
  /** For each part, in the order of the design: the version that put it in, then those that changed it. */
  readonly parts: readonly Story[];
  readonly gone: readonly GonePart[];
}

/** Of the first version: everything came with it. */
export const drawnFirst = (version: string, design: Design): DrawnBy => ({
  versions: [version],
  parts: design.parts.map(() => [0]),
  gone: [],
});

/** What a version has from another one than it follows: by a join, carried over, taken back, brought forward. */
export interface SecondSource {
  readonly drawn: DrawnBy;
  /** What leads from it to the version. */
  readonly step: Step;
}

/** Of the version that comes next: what it did not touch keeps its story. */
export function drawnNext(
  before: { readonly version: string; readonly drawn: DrawnBy; readonly design: Design },
  step: Step,
  { version, design }: { readonly version: string; readonly design: Design },
  second?: SecondSource,
): DrawnBy {
  const versions = [...before.drawn.versions];
  const places = new Map(versions.map((id, k) => [id, k]));
  const placeOf = (id: string): number => {
    const known = places.get(id);
    if (known !== undefined) return known;
    places.set(id, versions.length);
    versions.push(id);
    return versions.length - 1;
  };
  const now = placeOf(version);
  const parts = Array.from(step.pairing.toA, (i, j): Story => {
    const own = i >= 0 ? (before.drawn.parts[i] ?? []) : undefined;
    if (own && !step.edited.has(j)) return own;
    const elsewhere = second && storyThere(second, j);
    // It came from there as it is: whoever drew it there drew it.
    if (elsewhere) return elsewhere.map((k) => placeOf(second.drawn.versions[k] as string));
    return own ? [...own, now] : [now];
  });
  const last = placeOf(before.version);
  const back = new Set(
    [...step.pairing.toA.keys()].filter((j) => step.pairing.toA[j] === -1).map((j) => looksOf(design, j)),
  );
  const gone = [...step.pairing.toB.keys()]
    .filter((i) => step.pairing.toB[i] === -1)
    .map((i) => goneFrom(before.design, i, last, now));
  const stillGone = before.drawn.gone.filter((part) => !back.has(lookOf(part)));
  return { versions, parts, gone: [...stillGone, ...gone] };
}

/** By this a part is known when it comes back. */
const lookOf = ({
  kind,
  name,
  category,
  page,
  box,
}: Pick<GonePart, 'kind' | 'name' | 'category' | 'page' | 'box'>): string =>
  JSON.stringify([kind, name, category, page, box?.map((n) => Math.round(n * 100) / 100)]);

const looksOf = (design: Design, j: number): string => lookOf(goneFrom(design, j, 0, 0));

function storyThere({ drawn, step }: SecondSource, j: number): Story | undefined {
  const i = step.pairing.toA[j] ?? -1;
  return i >= 0 && !step.edited.has(j) ? drawn.parts[i] : undefined;
}

function goneFrom({ parts, pages }: Design, part: number, last: number, out: number): GonePart {
  const { kind, name, category, page, box } = parts[part] as Part;
  return { last, out, part, kind, name, category, page: pages[page]?.name ?? '', box: box ?? null };
}
