/** Layers: renamed, another look, hidden, and parts that went from one to another. */
import type { Layer, Scalar } from '../../../model/design.ts';
import { grouped, type Explanation, type Facet, type Open } from './open.ts';
import { calledOf, changesOf, thoseOf } from './words.ts';

export function layerCauses(open: Open): Explanation[] {
  const layers = new Layers(open);
  return [...layers.puttings(), ...layers.looks(), ...layers.declared()];
}

const byName = (layers: readonly Layer[] | undefined): Map<string, Layer> =>
  new Map((layers ?? []).map((l) => [l.name, l]));

/** Layers whose parts went to one, from so many on. */
const SEVERAL = 3;

/** Parts that went from one layer to another. */
interface Putting {
  readonly from: string;
  readonly to: string;
  readonly explanation: Explanation;
}

/** The layers of both sides; steps run in turn and take what they explain. */
class Layers {
  private readonly open: Open;
  private readonly before: Map<string, Layer>;
  private readonly after: Map<string, Layer>;
  private readonly usedBefore: Set<string>;
  private readonly usedAfter: Set<string>;
  private readonly renamed = new Map<string, string>();

  constructor(open: Open) {
    const { a, b } = open.evidence;
    this.open = open;
    this.before = byName(a.layers);
    this.after = byName(b.layers);
    this.usedBefore = new Set(a.parts.map((p) => p.category));
    this.usedAfter = new Set(b.parts.map((p) => p.category));
  }

  /** Parts that are on another layer: it was renamed, or they were put there. */
  puttings(): Explanation[] {
    const { evidence: e } = this.open;
    const changed = this.open.facets((_, w) => w?.aspect === 'layer');
    const namesOf = ([k]: Facet): string => `${e.changes[k]?.partA?.category}\n${e.changes[k]?.partB?.category}`;
    const puttings: Putting[] = [];
    const found: Explanation[] = [];
    for (const [names, group] of grouped(changed, namesOf)) {
      const [from = '', to = ''] = names.split('\n');
      const isRenaming = this.isRenaming(from, to);
      const explanation = isRenaming ? this.renaming(from, to, group) : this.putting(from, to, group);
      this.open.take(explanation.facets);
      if (isRenaming) found.push(explanation);
      else puttings.push({ from, to, explanation });
    }
    return [...found, ...this.together(puttings)];
  }

  /** What was put from several layers on one was put there by one act. */
  private together(puttings: readonly Putting[]): Explanation[] {
    const targets = [...new Set(puttings.map(({ to }) => to))];
    return targets.flatMap((to): Explanation[] => {
      const own = puttings.filter((one) => one.to === to);
      if (own.length < SEVERAL || to === '') return own.map(({ explanation }) => explanation);
      const facets = own.flatMap(({ explanation }) => explanation.facets);
      const values = {
        who: thoseOf(this.open.evidence, facets),
        from: own.map(({ from }) => from),
        to,
        ...calledOf(this.open.evidence),
      };
      return [{ kind: 'relayered', saying: { code: 'put-on-one-layer', values }, facets }];
    });
  }

  /** The old name is gone, the new one is new, and (nearly) all went from one to the other. */
  private isRenaming(from: string, to: string): boolean {
    const gone = !this.usedAfter.has(from) && !this.after.has(from);
    const fresh = !this.usedBefore.has(to) && !this.before.has(to);
    return gone && fresh && from !== '' && to !== '' && !this.renamed.has(from);
  }

  private renaming(from: string, to: string, facets: readonly Facet[]): Explanation {
    this.renamed.set(from, to);
    const values = { from, to, parts: facets.length };
    return { kind: 'layer-renamed', saying: { code: 'layer-renamed', values }, facets };
  }

  /** What a part takes from its layer goes along. */
  private putting(from: string, to: string, group: readonly Facet[]): Explanation {
    const moved = changesOf(group);
    const before = this.before.get(from)?.props;
    const after = this.after.get(to)?.props;
    const taken = this.open.facets((_, w, k) => {
      if (w?.aspect !== 'style' || w.property === undefined || !moved.has(k)) return false;
      if (w.property === 'hidden') return true;
      return sayProp(before, w.property) === w.from && sayProp(after, w.property) === w.to;
    });
    const facets = [...group, ...taken];
    const values = { who: thoseOf(this.open.evidence, facets), from, to, ...calledOf(this.open.evidence) };
    return { kind: 'relayered', saying: { code: 'put-on-layer', values }, facets };
  }

  looks(): Explanation[] {
    const looks: LayerLook[] = [];
    for (const [name, before] of this.before) {
      const after = this.after.get(this.renamed.get(name) ?? name);
      const look = after ? lookChange(before, after) : [];
      if (!after || !look.length) continue;
      const facets = this.open.facets(
        (c, w) => w?.aspect === 'style' && c.partB?.category === after.name && look.some((l) => explains(l, w)),
      );
      looks.push({ name: after.name, look, facets });
      this.open.take(facets);
    }
    return together(looks);
  }

  /** Layers that came or went with nothing on them. */
  declared(): Explanation[] {
    const renames = new Set(this.renamed.values());
    const came = [...this.after.keys()].filter(
      (name) => !this.before.has(name) && !this.usedAfter.has(name) && !renames.has(name),
    );
    const went = [...this.before.keys()].filter((name) => !this.after.has(name) && !this.usedBefore.has(name));
    return [...came.map((name) => declaration(name, 'added')), ...went.map((name) => declaration(name, 'removed'))];
  }
}

const declaration = (name: string, verb: 'added' | 'removed'): Explanation => ({
  kind: 'layer',
  saying: { code: 'layer-declared', values: { name, verb } },
  facets: [],
  parts: 0,
  weight: 1,
});

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

/** What became of the look of a layer, and of the parts that follow it. */
interface LayerLook {
  readonly name: string;
  readonly look: readonly LookChange[];
  readonly facets: readonly Facet[];
}

function together(looks: readonly LayerLook[]): Explanation[] {
  const groups = new Map<string, LayerLook[]>();
  for (const one of looks) {
    const key = one.look
      .map((l) => `${l.property}=${l.to}`)
      .sort()
      .join('|');
    groups.set(key, [...(groups.get(key) ?? []), one]);
  }
  return [...groups.values()].flatMap((group) => (group.length < ALIKE ? group.map(single) : [many(group)]));
}

const saidLook = (
  look: readonly LookChange[],
): { shown?: boolean; values: { property: string; from: string; to: string }[] } => {
  const hides = look.find((l) => visible.has(l.property));
  const values = look
    .filter((l) => !visible.has(l.property))
    .map(({ property, from, to }) => ({ property, from: String(from ?? 'none'), to: String(to ?? 'none') }));
  return { ...(hides ? { shown: hides.to !== 'yes' } : {}), values };
};

/** A look that no part follows matters little. */
const NO_PARTS = 1.5;

function single({ name, look, facets }: LayerLook): Explanation {
  const parts = changesOf(facets).size;
  const values = { name, look: saidLook(look), parts };
  return {
    kind: 'layer-look',
    saying: { code: 'layer-look', values },
    facets,
    parts,
    ...(parts ? {} : { weight: NO_PARTS }),
  };
}

function many(group: readonly LayerLook[]): Explanation {
  const facets = group.flatMap((g) => g.facets);
  const parts = changesOf(facets).size;
  const values = { layers: group.length, look: saidLook(group[0]?.look ?? []), parts };
  return {
    kind: 'layer-look',
    saying: { code: 'layers-look', values },
    facets,
    parts,
    ...(parts ? {} : { weight: NO_PARTS }),
  };
}
