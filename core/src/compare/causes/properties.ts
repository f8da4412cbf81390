/** Everything else: looks, formatting, outlines and other properties, grouped by what they went to. */
import { plural } from '../../text/plural.ts';
import type { CauseKind, Change } from '../../contract/comparison.ts';
import type { Facet, Found, Open } from './explain.ts';
import { grouped } from './explain.ts';
import { pluralOf, quoted, sayParts } from './words.ts';

const kindOf: Partial<Record<Change['what'][number]['aspect'], CauseKind>> = {
  style: 'style',
  formatting: 'formatting',
  geometry: 'reshaped',
  placement: 'motion',
  layer: 'relayered',
};

export function properties(open: Open): Found[] {
  const { evidence: e } = open;
  if (e.b.sequential) {
    const lines = open.facets(() => true);
    return lines.length
      ? [{ kind: 'lines', sentence: `${plural(new Set(lines.map(([k]) => k)).size, 'line')} changed`, facets: lines }]
      : [];
  }
  const out: Found[] = servers(open);
  for (const found of out) open.take(found.facets);
  for (const aspect of ['style', 'formatting'] as const) out.push(...looks(open, aspect));
  for (const found of out) open.take(found.facets);
  return [...out, ...outlines(open), ...others(open)];
}

/** Words of SVG for what parts are painted with, as readers have them: "linearGradient 1f2e3d4c". */
const served = /^(linearGradient|radialGradient|pattern|clipPath|mask|marker|filter) ([0-9a-f]{8})$/;
const serverNames: Readonly<Record<string, string>> = {
  linearGradient: 'Gradient',
  radialGradient: 'Gradient',
  pattern: 'Pattern',
  clipPath: 'Clip',
  mask: 'Mask',
  marker: 'Marker',
  filter: 'Filter',
};

/** A gradient, pattern or clip that changed shows at each part that is drawn with it. */
function servers(open: Open): Found[] {
  const { evidence: e } = open;
  const facets = open.facets(
    (_, w) => w?.aspect === 'style' && served.test(w.from) && served.exec(w.from)?.[1] === served.exec(w.to)?.[1],
  );
  return grouped(facets, ([k, d]) => `${e.changes[k]?.what[d]?.from}\n${e.changes[k]?.what[d]?.to}`).flatMap(
    ([key, group]): Found[] => {
      const [from = '', to = ''] = key.split('\n');
      const kind = served.exec(to)?.[1] ?? '';
      const named = (design: typeof e.a, print: string): string =>
        design.definitions.find((d) => d.kind === kind && d.fingerprint.startsWith(served.exec(print)?.[2] ?? '?'))
          ?.name ?? '';
      const before = named(e.a, from);
      const after = named(e.b, to);
      const parts = plural(new Set(group.map(([k]) => k)).size, 'part');
      const word = serverNames[kind] ?? kind;
      return [
        before === after || !before || !after
          ? {
              kind: 'definition',
              sentence: `${word}${after ? ` ${quoted(after)}` : ''} changed: ${parts}`,
              facets: group,
            }
          : {
              kind: 'replaced',
              sentence: `${word} ${quoted(before)} replaced by ${quoted(after)}: ${parts}`,
              facets: group,
            },
      ];
    },
  );
}

/** Changes of look: those with the same new values are one act, from whatever they were. */
function looks(open: Open, aspect: 'style' | 'formatting'): Found[] {
  const { evidence: e } = open;
  const facets = open.facets((_, w) => w?.aspect === aspect);
  const ofChange = new Map<number, Facet[]>();
  for (const facet of facets) ofChange.set(facet[0], [...(ofChange.get(facet[0]) ?? []), facet]);
  const what = ([k, d]: Facet): Change['what'][number] => (e.changes[k] as Change).what[d] as Change['what'][number];
  const signature = (list: readonly Facet[]): string =>
    list
      .map((f) => `${what(f).property}=${what(f).to}`)
      .sort()
      .join('|');
  const groups = new Map<string, Facet[][]>();
  for (const list of ofChange.values()) {
    const key = signature(list);
    groups.set(key, [...(groups.get(key) ?? []), list]);
  }
  // Where every part got a value of its own, only what was changed can be said.
  const loose = [...groups.values()].filter((g) => g.length === 1).flat();
  const tight = [...groups.values()].filter((g) => g.length > 1 || loose.length <= 2);
  const found = tight.map((lists): Found => {
    const [first = []] = lists;
    const all = lists.flat();
    const words = first.map((f) => {
      const from = new Set(lists.map((l) => what(l.find((x) => what(x).property === what(f).property) as Facet).from));
      return from.size === 1
        ? `${what(f).property} ${[...from][0]} → ${what(f).to}`
        : `${what(f).property} now ${what(f).to}`;
    });
    return { kind: aspect, sentence: `${sayParts(e, all)}: ${words.join(', ')}`, facets: all };
  });
  if (loose.length > 2) {
    for (const [names, group] of grouped(loose.flat(), ([k]) =>
      [...new Set((ofChange.get(k) ?? []).map((f) => what(f).property))].sort().join(', '),
    )) {
      found.push({
        kind: aspect,
        sentence: `${sayParts(e, group)}: ${names} changed, each to another value`,
        facets: group,
      });
    }
  }
  return found;
}

function outlines(open: Open): Found[] {
  const { evidence: e } = open;
  const facets = open.facets(
    (_, w) =>
      w?.aspect === 'geometry' || (w?.aspect === 'placement' && w.property === undefined) || w?.aspect === 'kind',
  );
  if (!facets.length) return [];
  const changes = new Set(facets.map(([k]) => k));
  const sizes = grouped(
    facets.filter(([k, d]) => e.changes[k]?.what[d]?.aspect === 'geometry'),
    ([k, d]) => `${e.changes[k]?.part.kind}\n${e.changes[k]?.what[d]?.from}\n${e.changes[k]?.what[d]?.to}`,
  );
  const [largest] = sizes;
  if (changes.size === 1) {
    const facet: Facet = facets.find(([c, n]) => e.changes[c]?.what[n]?.aspect === 'geometry') ?? facets[0] ?? [0, 0];
    const w = e.changes[facet[0]]?.what[facet[1]];
    return [
      {
        kind: 'reshaped',
        sentence: `${sayParts(e, facets)} ${w?.aspect === 'geometry' && w.from !== w.to ? `reshaped: ${w.from} → ${w.to}` : 'reshaped'}`,
        facets,
      },
    ];
  }
  if (largest && largest[1].length === changes.size) {
    const [kind = 'part', from = '', to = ''] = largest[0].split('\n');
    return [
      {
        kind: 'reshaped',
        sentence: `${plural(changes.size, kind, pluralOf(kind))} reshaped${from === to ? '' : `: ${from} → ${to}`}`,
        facets,
      },
    ];
  }
  return [{ kind: 'reshaped', sentence: `${sayParts(e, facets)} reshaped`, facets }];
}

function others(open: Open): Found[] {
  const { evidence: e } = open;
  const out: Found[] = [];
  const taken = new Set<string>();
  const rest = open.facets(
    (c, w) =>
      w !== undefined &&
      !['geometry', 'kind'].includes(w.aspect) &&
      !(w.aspect === 'placement' && w.property === undefined) &&
      c.kind !== 'added',
  );
  for (const [key, group] of grouped(
    rest,
    ([k, d]) => `${e.changes[k]?.what[d]?.aspect}\n${e.changes[k]?.what[d]?.property ?? ''}`,
  )) {
    const [aspect = '', property = ''] = key.split('\n');
    const first = group[0] as Facet;
    const w = e.changes[first[0]]?.what[first[1]];
    if (taken.has(key) || !w) continue;
    taken.add(key);
    const to = new Set(group.map(([k, d]) => e.changes[k]?.what[d]?.to));
    const values =
      group.length === 1 ? ` ${quoted(w.from)} → ${quoted(w.to)}` : to.size === 1 ? ` now ${quoted(w.to)}` : ' changed';
    out.push({
      kind: kindOf[w.aspect] ?? 'property',
      sentence: `${sayParts(e, group)}: ${property || aspect}${values}`,
      facets: group,
    });
  }
  return out;
}
