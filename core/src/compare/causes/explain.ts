/**
 * From a list of part changes to the fewest causes. A change may have several sides (moved and recoloured); each side, a
 * facet, is explained by one cause. Explainers run in turn, each taking only what those before it left.
 */
import type { Cause, CauseKind, Change } from '../../contract/comparison.ts';
import type { Pairing } from '../../match/pairing.ts';
import type { Registration } from '../../match/registration.ts';
import type { Design } from '../../model/design.ts';
import type { DefinitionChange } from '../definitions.ts';
import type { Motion } from '../../match/motion.ts';
import type { Regrouped } from '../regrouped.ts';
import { comings } from './comings.ts';
import { definitionCauses } from './definitions.ts';
import { layerCauses } from './layers.ts';
import { motions } from './motions.ts';
import { properties } from './properties.ts';
import { rewriting } from './rewriting.ts';
import { texts } from './texts.ts';
import { wholes } from './wholes.ts';

/** What is known of a change beside what is written of it. */
export interface Detail {
  readonly motion?: Motion | undefined;
  readonly stretch?: readonly [number, number] | undefined;
  /** The whole drawing was moved; the last difference says so. */
  readonly global?: boolean;
}

export interface Evidence {
  readonly a: Design;
  readonly b: Design;
  readonly changes: readonly Change[];
  readonly parts: readonly (readonly [number, number])[];
  readonly details: readonly Detail[];
  readonly pairing: Pairing;
  readonly registration: Registration | undefined;
  readonly definitions: readonly DefinitionChange[];
  readonly groups: readonly Regrouped[];
  readonly tolerance: number;
  /** Name of the unit, or nothing. */
  readonly unit: string;
}

/** One side of a change: index of the change, and of the difference in it; −1 where the part itself came or went. */
export type Facet = readonly [change: number, difference: number];

export interface Found {
  readonly kind: CauseKind;
  readonly sentence: string;
  readonly facets: readonly Facet[];
  /** Parts that it touches, where that is not the number of changes. */
  readonly parts?: number;
  /** How much it matters, where that does not follow from kind and number. */
  readonly weight?: number;
}

/** What is still to be explained. */
export class Open {
  private readonly done: Uint8Array[];
  readonly evidence: Evidence;

  constructor(evidence: Evidence) {
    this.evidence = evidence;
    this.done = evidence.changes.map((c) => new Uint8Array(Math.max(1, c.what.length)));
  }

  /** Facets without a cause yet that pass. */
  facets(test: (change: Change, difference: Change['what'][number] | undefined, k: number) => boolean): Facet[] {
    const out: Facet[] = [];
    this.evidence.changes.forEach((change, k) => {
      if (!change.what.length) {
        if (!this.done[k]?.[0] && test(change, undefined, k)) out.push([k, -1]);
      } else
        change.what.forEach((w, d) => {
          if (!this.done[k]?.[d] && test(change, w, k)) out.push([k, d]);
        });
    });
    return out;
  }

  take(facets: readonly Facet[]): void {
    for (const [k, d] of facets) (this.done[k] as Uint8Array)[Math.max(0, d)] = 1;
  }
}

/** How much a cause of a kind matters to whoever reads the list. */
const importance: Readonly<Record<CauseKind, number>> = {
  added: 10,
  removed: 10,
  replaced: 9.5,
  definition: 9,
  units: 9,
  motion: 8,
  stretch: 8,
  text: 8,
  lines: 8,
  scale: 7.5,
  reshaped: 7,
  page: 7,
  measured: 4,
  style: 5,
  'layer-look': 5,
  origin: 6,
  'layer-renamed': 4,
  relayered: 4,
  layer: 3,
  formatting: 4,
  property: 4,
  exploded: 3,
  blocked: 3,
  split: 2,
  joined: 2,
  rewritten: 1.5,
  order: 1,
  renumbered: 0.5,
  // Of pictures, which weigh their causes themselves.
  repainted: 9,
  tone: 8,
  sharpness: 7,
  cropped: 8,
  resampled: 8,
  turned: 8,
  flipped: 8,
  recompressed: 2,
  profile: 4,
};

const explainers: readonly ((open: Open) => Found[])[] = [
  wholes,
  rewriting,
  definitionCauses,
  layerCauses,
  motions,
  texts,
  comings,
  properties,
];

export function explain(evidence: Evidence): Cause[] {
  const open = new Open(evidence);
  const found: Found[] = [];
  for (const explainer of explainers) {
    for (const cause of explainer(open)) {
      open.take(cause.facets);
      found.push(cause);
    }
  }
  const [only] = found;
  if (found.length === 1 && only?.kind === 'renumbered')
    found[0] = { ...only, sentence: `${only.sentence}, nothing else` };
  const weighed = found.map((f) => {
    const changes = [...new Set(f.facets.map(([k]) => k))];
    const parts = f.parts ?? changes.length;
    return { ...f, changes, parts, weight: f.weight ?? importance[f.kind] * (1 + Math.log2(Math.max(1, parts)) / 4) };
  });
  weighed.sort((p, q) => q.weight - p.weight || q.parts - p.parts || (p.changes[0] ?? 0) - (q.changes[0] ?? 0));
  return weighed.map(({ kind, sentence, weight, parts, changes }, n) => ({
    id: `k${n + 1}`,
    kind,
    sentence,
    weight: Math.round(weight * 100) / 100,
    parts,
    changes: changes.map((k) => (evidence.changes[k] as Change).id),
  }));
}

/** Groups facets by what `key` gives; those without a key are left out. In order of size. */
export function grouped(facets: readonly Facet[], key: (facet: Facet) => string | undefined): [string, Facet[]][] {
  const groups = new Map<string, Facet[]>();
  for (const facet of facets) {
    const name = key(facet);
    if (name === undefined) continue;
    const group = groups.get(name);
    if (group) group.push(facet);
    else groups.set(name, [facet]);
  }
  return [...groups].sort((p, q) => q[1].length - p[1].length);
}
