/** What explainers work on: the sides of changes that have no cause yet. */
import type { CauseDraft, ChangeDraft } from '../../../causes/draft.ts';
import type { Motion } from '../../../match/motion.ts';
import type { Pairing } from '../../../match/pairing.ts';
import type { Registration } from '../../../match/registration.ts';
import type { Design } from '../../../model/design.ts';
import type { DefinitionChange } from '../definitions.ts';
import type { Unseen } from '../pixels/judge.ts';
import type { Regrouped } from '../regrouped.ts';

/** What is known of a change beside what is written of it. */
export interface Detail {
  readonly motion?: Motion | undefined;
  readonly stretch?: readonly [number, number] | undefined;
  /** The whole drawing was moved; the last difference says so. */
  readonly global?: boolean;
}

/** Two drawings, what changed between their parts, and all that tells why. */
export interface DrawingEvidence {
  readonly a: Design;
  readonly b: Design;
  readonly changes: readonly ChangeDraft[];
  readonly parts: readonly (readonly [number, number])[];
  readonly details: readonly Detail[];
  readonly pairing: Pairing;
  readonly registration: Registration | undefined;
  readonly definitions: readonly DefinitionChange[];
  readonly groups: readonly Regrouped[];
  /** Changes that do not show, by their index. */
  readonly unseen: ReadonlyMap<number, Unseen>;
  readonly tolerance: number;
  /** Name of the unit, or nothing. */
  readonly unit: string;
}

/** One side of a change: index of the change, and of the difference in it; −1 where the part itself came or went. */
export type Facet = readonly [change: number, difference: number];

/** A cause with the facets that it explains. */
export interface Explanation extends Omit<CauseDraft, 'changes'> {
  readonly facets: readonly Facet[];
}

/** What is still to be explained. */
export class Open {
  private readonly done: Uint8Array[];
  readonly evidence: DrawingEvidence;

  constructor(evidence: DrawingEvidence) {
    this.evidence = evidence;
    this.done = evidence.changes.map((c) => new Uint8Array(Math.max(1, c.what.length)));
  }

  /** Facets without a cause yet that pass. */
  facets(
    test: (change: ChangeDraft, difference: ChangeDraft['what'][number] | undefined, k: number) => boolean,
  ): Facet[] {
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
