/** Which definitions of two designs hold the same, within tolerance; and what changed in those that do not. */
import type { Inside } from '../../causes/sayings/drawing.ts';
import { matchParts } from '../../match/parts.ts';
import type { Definition, Design, Part } from '../../model/design.ts';
import { differences } from './differences.ts';

export interface DefinitionChange {
  /** Index in A and in B. */
  readonly a: number;
  readonly b: number;
  /** True where only definitions placed within it changed. */
  readonly inherited: boolean;
  /** How many of its shapes changed; none where its content is not kept apart. */
  readonly inside: Inside;
}

export interface DefinitionPairs {
  /** Numbers, equal for equal content. */
  readonly classes: { readonly a: readonly number[]; readonly b: readonly number[] };
  readonly changed: readonly DefinitionChange[];
  /** The same, but with changed definitions of one name taken for one: for finding their placements again. */
  readonly alike: { readonly a: readonly number[]; readonly b: readonly number[] };
}

const nameKey = (d: Definition): string => d.key.toLowerCase();
const unnamed = (d: Definition): boolean => d.key === '' || d.key.startsWith('*');

/** Contents larger than this are compared by fingerprint alone. */
const MOST = 20_000;

export function pairDefinitions(a: Design, b: Design, tolerance: number): DefinitionPairs {
  const classOf = new Map<string, number>();
  const classesA: number[] = [];
  const classesB: number[] = [];
  const changed: DefinitionChange[] = [];
  let next = 0;
  for (const d of a.definitions) {
    const known = classOf.get(d.fingerprint) ?? next++;
    classOf.set(d.fingerprint, known);
    classesA.push(known);
  }
  const byName = new Map(a.definitions.map((d, i) => [nameKey(d), i]));
  const byShape = new Map<string, number[]>();
  a.definitions.forEach((d, i) => {
    if (!d.content) return;
    const key = shapeKey(d, tolerance);
    const list = byShape.get(key);
    if (list) list.push(i);
    else byShape.set(key, [i]);
  });
  b.definitions.forEach((d, j) => {
    const known = classOf.get(d.fingerprint);
    const named = unnamed(d) ? undefined : byName.get(nameKey(d));
    if (known !== undefined) {
      classesB.push(known);
      return;
    }
    // Nested definitions stand before those that place them, so their classes are known by now.
    const inside = named === undefined ? undefined : contentChange(a, named, b, j, tolerance, classesA, classesB);
    const candidates = [
      ...(inside?.same ? [named as number] : []),
      ...(byShape.get(shapeKey(d, tolerance)) ?? []).slice(0, 4),
    ];
    const twin = candidates.find((i) =>
      i === named ? inside?.same : contentChange(a, i, b, j, tolerance, classesA, classesB)?.same,
    );
    classesB.push(twin === undefined ? next++ : (classesA[twin] as number));
    if (twin === undefined && named !== undefined)
      changed.push({
        a: named,
        b: j,
        inherited: inside?.inherited ?? false,
        inside: inside?.counts ?? { changed: 0, added: 0, removed: 0 },
      });
  });
  const alikeB = [...classesB];
  for (const c of changed) alikeB[c.b] = classesA[c.a] as number;
  return { classes: { a: classesA, b: classesB }, changed, alike: { a: classesA, b: alikeB } };
}

const shapeKey = (d: Definition, tolerance: number): string => {
  let w = 0;
  let h = 0;
  for (const p of d.content ?? []) {
    if (!p.box) continue;
    w = Math.max(w, p.box[2]);
    h = Math.max(h, p.box[3]);
  }
  return `${d.parts} ${Math.round(w / (50 * tolerance))} ${Math.round(h / (50 * tolerance))}`;
};

function contentChange(
  a: Design,
  i: number,
  b: Design,
  j: number,
  tolerance: number,
  classesA: readonly number[],
  classesB: readonly number[],
): { same: boolean; inherited: boolean; counts: Inside } | undefined {
  const defA = a.definitions[i];
  const defB = b.definitions[j];
  const partsA = defA?.content ?? defA?.inside;
  const partsB = defB?.content ?? defB?.inside;
  // Rows and columns of one thing differ by their numbers and distances, which the fingerprint knows.
  if (!partsA || !partsB || partsA.length > MOST || partsB.length > MOST || a.definitions[i]?.kind === 'array')
    return undefined;
  const within = (d: Design, parts: readonly Part[]): Design => ({
    ...d,
    parts,
    pages: [{ name: '', box: [0, 0, 0, 0] }],
  });
  const inA = within(a, partsA);
  const inB = within(b, partsB);
  const classes = { a: classesA, b: classesB };
  const { toA, toB } = matchParts(inA, inB, tolerance, classes);
  const context = { a: inA, b: inB, tolerance, classes, sameCategory: () => false };
  let added = 0;
  let removed = 0;
  let changed = 0;
  let nested = 0;
  for (const k of toB) if (k < 0) removed++;
  toA.forEach((k, n) => {
    const from = partsA[k];
    const to = partsB[n];
    if (!from || !to) added++;
    else {
      const { what } = differences(context, from, to);
      if (what.length && what.every((w) => w.aspect === 'definition')) nested++;
      else if (what.length) changed++;
    }
  });
  const own = added + removed + changed;
  return {
    // Only content that is all there is says that two definitions are the same.
    same: own + nested === 0 && defA?.content !== undefined,
    inherited: own === 0 && nested > 0,
    counts: { changed, added, removed },
  };
}
