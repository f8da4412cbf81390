/** A definition that changed shows at each placement; a placement may also be of another definition than before. */
import type { Definition } from '../../../model/design.ts';
import { grouped, type Explanation, type Facet, type Open } from './open.ts';
import { changesOf, thoseOf } from './words.ts';

export function definitionCauses(open: Open): Explanation[] {
  const facets = open.facets((_, w) => w?.aspect === 'definition');
  const groups = grouped(facets, definitionPairOf(open));
  const unnamed = (index: number, of: readonly Definition[]): boolean => {
    const definition = of[index];
    return !definition || definition.key === '' || definition.key.startsWith('*');
  };
  const out: Explanation[] = [];
  // Dimensions and the like keep their drawing in a block without a name.
  const drawings: Facet[] = [];
  for (const [pair, group] of groups) {
    const [from = -1, to = -1] = pair.split(':').map(Number);
    const { a, b } = open.evidence;
    if (unnamed(from, a.definitions) && unnamed(to, b.definitions)) drawings.push(...group);
    else out.push(ofDefinitions(open, from, to, group));
  }
  return [...out, ...dimensions(open, drawings), ...renamed(open), ...library(open)];
}

/** For a facet the definitions that its placement had before and has now: "3:4". */
function definitionPairOf({ evidence: e }: Open): (facet: Facet) => string | undefined {
  const changedAt = new Map(e.definitions.map((d) => [`${d.a}:${d.b}`, d]));
  const own = e.definitions.filter((d) => !d.inherited);
  const rootOf = (index: number): string | undefined => {
    const root = own.find((d) => reaches(e.b.definitions, index, d.b));
    return root && `${root.a}:${root.b}`;
  };
  return ([k]) => {
    const [i, j] = e.parts[k] as readonly [number, number];
    const from = e.a.parts[i]?.definition;
    const to = e.b.parts[j]?.definition;
    if (from === undefined || to === undefined) return undefined;
    const pair = `${from}:${to}`;
    // What only holds a changed definition is explained by that one.
    return changedAt.get(pair)?.inherited ? (rootOf(to) ?? pair) : pair;
  };
}

function ofDefinitions(open: Open, from: number, to: number, group: readonly Facet[]): Explanation {
  const { evidence: e } = open;
  const a = e.a.definitions[from];
  const b = e.b.definitions[to];
  const change = e.definitions.find((d) => d.a === from && d.b === to);
  const kind = b?.kind ?? 'definition';
  // Placements that are drawn with their definition's shapes change their outline with it.
  const of = changesOf(group);
  const facets = [...group, ...open.facets((_, w, k) => w?.aspect === 'geometry' && of.has(k))];
  const sameName = a?.key.toLowerCase() === b?.key.toLowerCase() || (a?.name === b?.name && a?.name !== '');
  const placements = group.length;
  if (!sameName && !change) {
    const values = { kind, from: a?.name ?? '', to: b?.name ?? '', placements };
    return { kind: 'replaced', saying: { code: 'definition-replaced', values }, facets };
  }
  const inside = change?.inside ?? { changed: 0, added: 0, removed: 0 };
  const values = { kind, name: b?.name ?? '', placements, inside };
  return { kind: 'definition', saying: { code: 'definition-changed', values }, facets };
}

function dimensions(open: Open, drawings: readonly Facet[]): Explanation[] {
  const { evidence: e } = open;
  const measured = open.facets(
    (c, w) =>
      c.part.kind === 'dimension' &&
      (w?.property === 'measured' || (w?.aspect === 'text' && !w.property) || w?.aspect === 'geometry'),
  );
  const facets = [...drawings, ...measured];
  if (!facets.length) return [];
  const count = changesOf(facets).size;
  const measure = measured
    .map(([k, d]) => e.changes[k]?.what[d])
    .find((difference) => difference?.property === 'measured');
  if (count === 1 && measure) {
    const values = { who: thoseOf(e, facets), from: measure.from, to: measure.to };
    return [{ kind: 'measured', saying: { code: 'dimension-measures', values }, facets }];
  }
  return [{ kind: 'measured', saying: { code: 'dimensions-redrawn', values: { count } }, facets }];
}

/** A block's new name is no change of what it draws. */
function renamed(open: Open): Explanation[] {
  const { evidence: e } = open;
  const facets = open.facets((c, w) => w?.aspect === 'name' && c.part.kind === 'placement');
  const namesOf = ([k, d]: Facet): string => `${e.changes[k]?.what[d]?.from}\n${e.changes[k]?.what[d]?.to}`;
  return grouped(facets, namesOf).map(([names, group]): Explanation => {
    const [from = '', to = ''] = names.split('\n');
    const values = { from, to, placements: group.length };
    return { kind: 'property', saying: { code: 'placements-renamed', values }, facets: group };
  });
}

/** What lies ready in the file and nothing places: it is not seen, so it comes after all that is. */
const LIBRARY = 0.5;

function library({ evidence: { a, b } }: Open): Explanation[] {
  const known = { a: prints(a.definitions), b: prints(b.definitions) };
  const gone = a.definitions.filter((d) => d.unplaced && !known.b.has(d.fingerprint));
  const fresh = b.definitions.filter((d) => d.unplaced && !known.a.has(d.fingerprint));
  const keys = { a: keysOf(a.definitions), b: keysOf(b.definitions) };
  const waited = keysOf(gone);
  // What is placed in one of them is told by its placements.
  const of = {
    changed: fresh.filter(({ key }) => waited.has(key)),
    added: fresh.filter(({ key }) => !keys.a.has(key)),
    removed: gone.filter(({ key }) => !keys.b.has(key)),
  };
  return Object.entries(of).flatMap(([verb, list]): Explanation[] => {
    const [first] = list;
    if (!first) return [];
    const values = { verb: verb as keyof typeof of, count: list.length, kind: first.kind, name: first.name };
    return [{ kind: 'definition', saying: { code: 'library-changed', values }, facets: [], parts: 0, weight: LIBRARY }];
  });
}

const keysOf = (definitions: readonly Definition[]): ReadonlySet<string> => new Set(definitions.map(({ key }) => key));

const prints = (definitions: readonly Definition[]): ReadonlySet<string> =>
  new Set(definitions.map(({ fingerprint }) => fingerprint));

/** Whether the definition at `index` places the one at `target`, directly or through others. */
function reaches(definitions: readonly Definition[], index: number, target: number, seen = new Set<number>()): boolean {
  if (index === target) return true;
  if (seen.has(index)) return false;
  seen.add(index);
  return (definitions[index]?.content ?? []).some(
    (p) => p.definition !== undefined && reaches(definitions, p.definition, target, seen),
  );
}
