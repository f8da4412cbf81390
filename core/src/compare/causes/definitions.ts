/** A definition that changed shows at each placement; a placement may also be of another definition than before. */
import { plural } from '../../text/plural.ts';
import type { Definition } from '../../model/design.ts';
import type { Facet, Found, Open } from './explain.ts';
import { grouped } from './explain.ts';
import { capital, pluralOf, quoted, sayParts } from './words.ts';

export function definitionCauses(open: Open): Found[] {
  const { evidence: e } = open;
  const changedAt = new Map(e.definitions.map((d) => [`${d.a}:${d.b}`, d]));
  const facets = open.facets((_, w) => w?.aspect === 'definition');
  const own = e.definitions.filter((d) => !d.inherited);
  const rootsOf = (index: number): string[] =>
    own.filter((d) => reaches(e.b.definitions, index, d.b)).map((d) => `${d.a}:${d.b}`);
  const key = ([k]: Facet): string | undefined => {
    const [i, j] = e.parts[k] as readonly [number, number];
    const from = e.a.parts[i]?.definition;
    const to = e.b.parts[j]?.definition;
    if (from === undefined || to === undefined) return undefined;
    const change = changedAt.get(`${from}:${to}`);
    // What only holds a changed definition is explained by that one.
    return change?.inherited ? (rootsOf(to)[0] ?? `${from}:${to}`) : `${from}:${to}`;
  };
  const unnamed = (d: Definition | undefined): boolean => !d || d.key === '' || d.key.startsWith('*');
  const groups = grouped(facets, key);
  const out: Found[] = [];
  const drawings: Facet[] = [];
  for (const [pair, group] of groups) {
    const [from = -1, to = -1] = pair.split(':').map(Number);
    const a = e.a.definitions[from];
    const b = e.b.definitions[to];
    const change = changedAt.get(pair);
    const placements = plural(group.length, 'placement');
    if (unnamed(a) && unnamed(b)) {
      // Dimensions and the like keep their drawing in a block without a name.
      drawings.push(...group);
      continue;
    }
    const what = capital(b?.kind === 'block' || b?.kind === 'symbol' ? b.kind : (b?.kind ?? 'definition'));
    // Placements that are drawn with their definition's shapes change their outline with it.
    const of = new Set(group.map(([k]) => k));
    const all = [...group, ...open.facets((_, w, k) => w?.aspect === 'geometry' && of.has(k))];
    const sameName = a?.key.toLowerCase() === b?.key.toLowerCase() || (a?.name === b?.name && a?.name !== '');
    if (sameName || change !== undefined) {
      out.push({
        kind: 'definition',
        sentence: `${what} ${quoted(b?.name ?? '')} changed: ${placements}${change?.inside ? ` (${change.inside})` : ''}`,
        facets: all,
      });
    } else
      out.push({
        kind: 'replaced',
        sentence: `${what} ${quoted(a?.name ?? '')} replaced by ${quoted(b?.name ?? '')}: ${placements}`,
        facets: all,
      });
  }
  const measured = open.facets(
    (c, w) =>
      c.part.kind === 'dimension' &&
      (w?.property === 'measured' || (w?.aspect === 'text' && !w.property) || w?.aspect === 'geometry'),
  );
  const about = [...drawings, ...measured];
  if (about.length) {
    const [first] = measured.flatMap(([k, d]) =>
      e.changes[k]?.what[d]?.property === 'measured' ? [e.changes[k]?.what[d]] : [],
    );
    const many = new Set(about.map(([k]) => k)).size;
    out.push({
      kind: 'measured',
      sentence:
        many === 1 && first
          ? `${sayParts(e, about)}: measures ${first.from} → ${first.to}`
          : `${plural(many, 'dimension')} drawn anew`,
      facets: about,
    });
  }
  // A block's new name is no change of what it draws.
  const renamed = open.facets((c, w) => w?.aspect === 'name' && c.part.kind === 'placement');
  for (const [names, group] of grouped(
    renamed,
    ([k, d]) => `${e.changes[k]?.what[d]?.from}\n${e.changes[k]?.what[d]?.to}`,
  )) {
    const [from = '', to = ''] = names.split('\n');
    out.push({
      kind: 'property',
      sentence: `${quoted(from)} renamed ${quoted(to)}: ${plural(group.length, 'placement', pluralOf('placement'))}`,
      facets: group,
    });
  }
  return out;
}

/** Whether the definition at `index` places the one at `target`, directly or through others. */
function reaches(definitions: readonly Definition[], index: number, target: number, seen = new Set<number>()): boolean {
  if (index === target) return true;
  if (seen.has(index)) return false;
  seen.add(index);
  return (definitions[index]?.content ?? []).some(
    (p) => p.definition !== undefined && reaches(definitions, p.definition, target, seen),
  );
}
