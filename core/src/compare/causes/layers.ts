/** Layers: renamed, another look, hidden, and parts that went from one to another. */
import { plural } from '../../text/plural.ts';
import type { Layer, Scalar } from '../../model/design.ts';
import type { Facet, Found, Open } from './explain.ts';
import { grouped } from './explain.ts';
import { quoted, sayParts } from './words.ts';

export function layerCauses(open: Open): Found[] {
  const { evidence: e } = open;
  const out: Found[] = [];
  const layersA = new Map((e.a.layers ?? []).map((l) => [l.name, l]));
  const layersB = new Map((e.b.layers ?? []).map((l) => [l.name, l]));
  const usedA = new Set(e.a.parts.map((p) => p.category));
  const usedB = new Set(e.b.parts.map((p) => p.category));
  const changed = open.facets((_, w) => w?.aspect === 'layer');
  const renamed = new Map<string, string>();
  for (const [names, group] of grouped(
    changed,
    ([k]) => `${e.changes[k]?.partA?.category}\n${e.changes[k]?.partB?.category}`,
  )) {
    const [from = '', to = ''] = names.split('\n');
    // The old name is gone, the new one is new, and (nearly) all went from one to the other.
    const gone = !usedB.has(from) && !layersB.has(from);
    const fresh = !usedA.has(to) && !layersA.has(to);
    if (gone && fresh && from && to && !renamed.has(from)) {
      renamed.set(from, to);
      out.push({
        kind: 'layer-renamed',
        sentence: `Layer ${quoted(from)} renamed ${quoted(to)}, ${plural(group.length, 'part')}`,
        facets: group,
      });
    } else {
      // What the part takes from its layer goes along.
      const moved = new Set(group.map(([k]) => k));
      const before = layersA.get(from)?.props;
      const after = layersB.get(to)?.props;
      const taken = open.facets(
        (_, w, k) =>
          w?.aspect === 'style' &&
          w.property !== undefined &&
          moved.has(k) &&
          (w.property === 'hidden' || (sayProp(before, w.property) === w.from && sayProp(after, w.property) === w.to)),
      );
      group.push(...taken);
      out.push({
        kind: 'relayered',
        sentence: `${sayParts(e, group)} put from ${from ? `layer ${quoted(from)}` : 'no layer'} ${to ? `on layer ${quoted(to)}` : 'on none'}`,
        facets: group,
      });
    }
    open.take(group);
  }
  const looks: { name: string; look: LookChange[]; facets: Facet[] }[] = [];
  for (const [name, before] of layersA) {
    const after = layersB.get(renamed.get(name) ?? name);
    if (!after) continue;
    const look = lookChange(before, after);
    if (!look.length) continue;
    const facets = open.facets(
      (c, w) => w?.aspect === 'style' && c.partB?.category === after.name && look.some((l) => explains(l, w)),
    );
    looks.push({ name: after.name, look, facets });
    open.take(facets);
  }
  out.push(...together(looks));
  const renames = new Set(renamed.values());
  for (const [name] of layersB)
    if (!layersA.has(name) && !usedB.has(name) && !renames.has(name))
      out.push({ kind: 'layer', sentence: `Layer ${quoted(name)} added, empty`, facets: [], parts: 0, weight: 1 });
  for (const [name] of layersA)
    if (!layersB.has(name) && !usedA.has(name))
      out.push({
        kind: 'layer',
        sentence: `Layer ${quoted(name)} removed; it was empty`,
        facets: [],
        parts: 0,
        weight: 1,
      });
  return out;
}

const sayProp = (props: Readonly<Record<string, Scalar>> | undefined, name: string): string =>
  String(props?.[name] ?? 'none');

interface LookChange {
  readonly property: string;
  readonly from: Scalar | undefined;
  readonly to: Scalar | undefined;
}

function lookChange(before: Layer, after: Layer): LookChange[] {
  const names = [...new Set([...Object.keys(before.props), ...Object.keys(after.props)])];
  return names
    .filter((n) => before.props[n] !== after.props[n])
    .map((property) => ({ property, from: before.props[property], to: after.props[property] }));
}

const visible: ReadonlySet<string> = new Set(['off', 'frozen']);

/** A part's look follows its layer's where both went from the same to the same. */
function explains(l: LookChange, w: { property?: string | undefined; from: string; to: string }): boolean {
  if (visible.has(l.property)) return w.property === 'hidden';
  return w.property === l.property && String(l.to) === w.to && String(l.from) === w.from;
}

/** Layers that were made to look alike, this many and more, are one act. */
const ALIKE = 3;

function together(looks: readonly { name: string; look: LookChange[]; facets: Facet[] }[]): Found[] {
  const groups = new Map<string, (typeof looks)[number][]>();
  for (const one of looks) {
    const key = one.look
      .map((l) => `${l.property}=${l.to}`)
      .sort()
      .join('|');
    groups.set(key, [...(groups.get(key) ?? []), one]);
  }
  return [...groups.values()].flatMap((group): Found[] => {
    const [first] = group;
    if (!first || group.length < ALIKE) return group.map(({ name, look, facets }) => layerLook(name, look, facets));
    const facets = group.flatMap((g) => g.facets);
    const parts = new Set(facets.map(([k]) => k)).size;
    const said = first.look
      .map((l) =>
        visible.has(l.property) ? (l.to === 'yes' ? 'hidden' : 'shown again') : `${l.property} now ${l.to ?? 'none'}`,
      )
      .join(', ');
    return [
      {
        kind: 'layer-look',
        sentence: `${group.length} layers: ${said}${parts ? `, ${plural(parts, 'part')}` : ''}`,
        facets,
        parts,
        ...(parts ? {} : { weight: 1.5 }),
      },
    ];
  });
}

function layerLook(name: string, look: readonly LookChange[], facets: readonly Facet[]): Found {
  const parts = new Set(facets.map(([k]) => k)).size;
  const tail = parts ? `, ${plural(parts, 'part')}` : '';
  const hides = look.find((l) => visible.has(l.property));
  const rest = look
    .filter((l) => !visible.has(l.property))
    .map((l) => `${l.property} ${l.from ?? 'none'} → ${l.to ?? 'none'}`);
  const first = hides ? [hides.to === 'yes' ? 'hidden' : 'shown again'] : [];
  return {
    kind: 'layer-look',
    sentence: `Layer ${quoted(name)}${first.length ? ` ${first[0]}` : ''}${rest.length ? `${first.length ? '; ' : ': '}${rest.join(', ')}` : ''}${tail}`,
    facets,
    parts,
    ...(parts ? {} : { weight: 1.5 }),
  };
}
