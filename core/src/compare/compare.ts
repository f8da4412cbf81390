/** The one comparison engine: from two designs to a list of what changed, and the fewest causes that explain it. */
import type { Cause, Change, Counts, PartSummary } from '../contract/comparison.ts';
import { angleOf } from '../geometry/matrix.ts';
import { diagonal } from '../geometry/box.ts';
import type { Pairing } from '../match/pairing.ts';
import { matchParts } from '../match/parts.ts';
import { movedDesign, register, type Registration } from '../match/registration.ts';
import { matchSequence } from '../match/sequence.ts';
import { toleranceFor } from '../match/tolerance.ts';
import type { Design, Part } from '../model/design.ts';
import { sameCategories } from './categories.ts';
import { explain, type Detail } from './causes/explain.ts';
import { pairDefinitions } from './definitions.ts';
import { differences, type Context } from './differences.ts';
import { unitsExplain } from './units.ts';
import { regrouped, type Regrouped } from './regrouped.ts';

export interface CompareOptions {
  /** Distance in design units within which places count as the same; chosen from the data by default. */
  readonly tolerance?: number;
}

export interface ComparedDesigns {
  readonly changes: Change[];
  /** For each change the index of its part in A and in B, −1 for none. */
  readonly parts: [number, number][];
  readonly counts: Counts;
  readonly causes: Cause[];
  readonly pairing: Pairing;
  readonly tolerance: number;
}

/** Changes between two designs, in the order of B (removed parts where they stood in A). */
export function compareDesigns(a: Design, b: Design, options: CompareOptions = {}): ComparedDesigns {
  return new Comparing(a, b, options).run();
}

class Comparing {
  private readonly changes: Change[] = [];
  private readonly parts: [number, number][] = [];
  private readonly details: Detail[] = [];
  private readonly counts: Counts = { added: 0, removed: 0, changed: 0, moved: 0, unchanged: 0 };
  private readonly a: Design;
  private readonly b: Design;
  private readonly given: number | undefined;
  private tolerance: number;

  constructor(a: Design, b: Design, { tolerance }: CompareOptions) {
    this.given = tolerance;
    this.a = a;
    this.b = b;
    this.tolerance = tolerance ?? toleranceFor(a, b);
  }

  run(): ComparedDesigns {
    const { a, b } = this;
    const sequential = a.sequential && b.sequential;
    const registration = sequential ? undefined : register(a, b, this.tolerance);
    // A as B sees it: what remains different is what was edited.
    const seen = registration ? movedDesign(a, registration.matrix) : a;
    // Numbers that a turn made crooked are no sign of rounding.
    if (registration && this.given === undefined) this.tolerance = toleranceFor(seen, b);
    const { tolerance } = this;
    const definitions = pairDefinitions(seen, b, tolerance);
    const pairing = sequential ? matchSequence(a, b) : matchParts(seen, b, tolerance, definitions.alike);
    const context: Context = {
      a: seen,
      b,
      tolerance,
      sameCategory: sameCategories(a, b, pairing),
      classes: definitions.classes,
    };
    this.list(context, pairing, registration);
    const groups = sequential ? [] : this.regroup(seen);
    const causes = explain({
      a,
      b,
      changes: this.changes,
      parts: this.parts,
      details: this.details,
      pairing,
      registration,
      definitions: definitions.changed,
      groups,
      tolerance,
      unit: b.origin.units ?? '',
    });
    return { changes: this.changes, parts: this.parts, counts: this.counts, causes, pairing, tolerance };
  }

  private push(change: Omit<Change, 'id'>, i: number, j: number, detail: Detail): void {
    this.changes.push({ id: `c${this.changes.length + 1}`, ...change });
    this.parts.push([i, j]);
    this.details.push(detail);
    this.counts[change.kind]++;
  }

  private list(context: Context, pairing: Pairing, registration: Registration | undefined): void {
    const { a, b } = this;
    let nextA = 0;
    const removedUpTo = (end: number): void => {
      for (; nextA < end; nextA++) {
        const part = a.parts[nextA];
        if (!part || pairing.toB[nextA] !== -1) continue;
        const summary = summaryOf(a, part, nextA);
        this.push(
          {
            kind: 'removed',
            part: summary,
            partA: summary,
            what: [],
            boxA: boxOf(part),
            boxB: null,
            size: extent(part),
          },
          nextA,
          -1,
          {},
        );
      }
    };
    // A change of units moves nothing in the world, so it is no change of any part.
    const global = registration && !unitsExplain(a, b, registration) ? registration : undefined;
    b.parts.forEach((part, j) => {
      const i = pairing.toA[j] as number;
      const before = a.parts[i];
      const seen = context.a.parts[i];
      if (!before || !seen) {
        const summary = summaryOf(b, part, j);
        this.push(
          { kind: 'added', part: summary, partB: summary, what: [], boxA: null, boxB: boxOf(part), size: extent(part) },
          -1,
          j,
          {},
        );
        return;
      }
      removedUpTo(Math.max(nextA, i));
      const { what, motion, stretch, size } = differences(context, seen, part);
      const all = global ? [...what, globalMove(global, b)] : what;
      if (!all.length) {
        this.counts.unchanged++;
        return;
      }
      const kind = all.every((w) => w.aspect === 'placement') ? 'moved' : 'changed';
      this.push(
        {
          kind,
          part: summaryOf(b, part, j),
          partA: summaryOf(a, before, i),
          partB: summaryOf(b, part, j),
          what: all,
          boxA: boxOf(before),
          boxB: boxOf(part),
          size: round(size),
        },
        i,
        j,
        { motion, stretch, global: global !== undefined },
      );
    });
    removedUpTo(a.parts.length);
  }

  private regroup(seen: Design): Regrouped[] {
    const restA: number[] = [];
    const restB: number[] = [];
    const reshaped: [number, number][] = [];
    this.changes.forEach((change, k) => {
      const [i, j] = this.parts[k] as [number, number];
      if (i < 0) restB.push(j);
      else if (j < 0) restA.push(i);
      else if (change.what.some((w) => w.aspect === 'geometry')) reshaped.push([i, j]);
    });
    return restA.length + restB.length ? regrouped(seen, this.b, restA, restB, reshaped, this.tolerance) : [];
  }
}

function globalMove({ matrix, scale }: Registration, b: Design): Change['what'][number] {
  const up = b.yUp ? -1 : 1;
  const n = (v: number): string => String(Math.round(v * 1e4) / 1e4).replace('-', '−');
  const turn = up * angleOf(matrix);
  const how = [
    ...(Math.abs(scale - 1) > 1e-6 ? [`× ${n(scale)}`] : []),
    ...(Math.abs(turn) > 1e-4 ? [`turned ${n(turn)}°`] : []),
    `by (${n(matrix[4])}, ${n(up * matrix[5])})`,
  ];
  return {
    aspect: Math.abs(scale - 1) > 1e-6 ? 'geometry' : 'placement',
    property: 'whole drawing',
    from: 'where it was',
    to: how.join(', '),
  };
}

const round = (n: number): number => Math.round(n * 1e4) / 1e4;

const boxOf = (part: Part): Change['boxA'] =>
  part.box ? [round(part.box[0]), round(part.box[1]), round(part.box[2]), round(part.box[3])] : null;

const extent = (part: Part): number => (part.box ? round(diagonal(part.box)) : 0);

const summaryOf = (design: Design, part: Part, index: number): PartSummary => ({
  key: part.key ?? null,
  kind: part.kind,
  name: part.name,
  category: part.category,
  page: design.pages[part.page]?.name ?? '',
  index,
});
