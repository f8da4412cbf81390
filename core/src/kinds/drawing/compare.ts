/** From two designs to a list of what changed of their parts, and the fewest causes that explain it. */
import type { ChangeDraft, Evidence } from '../../causes/draft.ts';
import { diagonal } from '../../geometry/box.ts';
import { angleOf } from '../../geometry/matrix.ts';
import { inOrder } from '../../match/in-order.ts';
import type { Pairing } from '../../match/pairing.ts';
import { matchParts } from '../../match/parts.ts';
import { inRows } from '../../match/rows.ts';
import { movedDesign, register, type Registration } from '../../match/registration.ts';
import { toleranceFor } from '../../match/tolerance.ts';
import type { Design, Part } from '../../model/design.ts';
import { isInSpace } from '../../model/solid.ts';
import { sameCategories } from './categories.ts';
import type { CompareSurfaces } from './in-space.ts';
import { explain } from './causes/explain.ts';
import type { Detail } from './causes/open.ts';
import { pairDefinitions } from './definitions.ts';
import { differences, type Context } from './differences.ts';
import type { Unseen } from './pixels/judge.ts';
import { partSummary } from './part-summary.ts';
import { regrouped, type Regrouped } from './regrouped.ts';
import { unitsExplain } from './units.ts';

export interface DrawingOptions {
  /** Of models: compares surfaces. */
  readonly surfaces?: CompareSurfaces;
  /** Distance in design units within which places count as the same; chosen from the data by default. */
  readonly tolerance?: number;
}

/** What differs between the parts of two designs. */
export interface ComparedDesigns extends Evidence {
  /** For each change the index of its part in A and in B, −1 for none. */
  readonly parts: readonly (readonly [number, number])[];
  readonly pairing: Pairing;
  readonly tolerance: number;
}

/** What differs part by part, while it is not yet said why. */
export interface ListedChanges extends Pick<ComparedDesigns, 'changes' | 'parts'> {
  /** The whole result; `unseen` are the changes that do not show, by their index. */
  explained(unseen?: ReadonlyMap<number, Unseen>): ComparedDesigns;
}

/** Changes stand in the order of B, removed parts where they stood in A. */
export const compareParts = (a: Design, b: Design, options: DrawingOptions = {}): ListedChanges =>
  new Comparing(a, b, options).run();

export const compareDesigns = (a: Design, b: Design, options: DrawingOptions = {}): ComparedDesigns =>
  compareParts(a, b, options).explained();

/** A change with what is known of it beside. */
interface Listed {
  readonly change: ChangeDraft;
  readonly pair: readonly [number, number];
  readonly detail: Detail;
}

class Comparing {
  private readonly listed: Listed[] = [];
  private readonly a: Design;
  private readonly b: Design;
  private readonly given: number | undefined;
  private readonly surfaces: CompareSurfaces | undefined;
  private tolerance: number;
  private unchanged = 0;

  constructor(a: Design, b: Design, { tolerance, surfaces }: DrawingOptions) {
    this.surfaces = surfaces;
    this.given = tolerance;
    this.a = a;
    this.b = b;
    this.tolerance = tolerance ?? toleranceFor(a, b);
  }

  run(): ListedChanges {
    const { a, b } = this;
    // How a model stands as a whole is found out before its parts are compared (kinds/solid/whole.ts).
    const registration = isInSpace(b) ? undefined : register(a, b, this.tolerance);
    // A as B sees it: what remains different is what was edited.
    const seen = registration ? movedDesign(a, registration.matrix) : a;
    // Numbers that a turn made crooked are no sign of rounding.
    if (registration && this.given === undefined) this.tolerance = toleranceFor(seen, b);
    const { tolerance } = this;
    const definitions = pairDefinitions(seen, b, tolerance);
    const pairing = inRows(seen, b, matchParts(seen, b, tolerance, definitions.alike), tolerance);
    const sameCategory = sameCategories(a, b, pairing);
    this.list(
      { a: seen, b, tolerance, sameCategory, classes: definitions.classes, surfaces: this.surfaces },
      pairing,
      registration,
    );
    const changes = this.listed.map((l) => l.change);
    const parts = this.listed.map((l) => l.pair);
    const evidence = {
      a,
      b,
      changes,
      parts,
      details: this.listed.map((l) => l.detail),
      pairing,
      registration,
      definitions: definitions.changed,
      groups: this.regroup(seen),
      tolerance,
      unit: b.origin.units ?? '',
    };
    const { unchanged } = this;
    return {
      changes,
      parts,
      explained: (unseen = new Map()) => ({
        changes,
        parts,
        causes: explain({ ...evidence, unseen }),
        pairing,
        tolerance,
        unchanged,
        notes: [],
      }),
    };
  }

  private list(context: Context, pairing: Pairing, registration: Registration | undefined): void {
    // A change of units moves nothing in the world, so it is no change of any part.
    const global = registration && !unitsExplain(this.a, this.b, registration) ? registration : undefined;
    for (const pair of inOrder(pairing)) {
      const listed = pair[0] < 0 || pair[1] < 0 ? this.single(pair) : this.pair(context, pair, global);
      if (listed) this.listed.push(listed);
      else this.unchanged++;
    }
  }

  /** A part that only one side has. */
  private single(pair: readonly [number, number]): Listed {
    const [design, index, kind] =
      pair[1] < 0 ? ([this.a, pair[0], 'removed'] as const) : ([this.b, pair[1], 'added'] as const);
    const part = design.parts[index] as Part;
    const summary = partSummary(design, part, index);
    const box = boxOf(part);
    const sides =
      kind === 'removed'
        ? { partA: summary, boxA: box, boxB: null, ...risesOf(part, undefined) }
        : { partB: summary, boxA: null, boxB: box, ...risesOf(undefined, part) };
    return { change: { kind, part: summary, ...sides, what: [], size: extent(part) }, pair, detail: {} };
  }

  /** Undefined where the two are the same. */
  private pair(
    context: Context,
    pair: readonly [number, number],
    global: Registration | undefined,
  ): Listed | undefined {
    const [i, j] = pair;
    const before = this.a.parts[i] as Part;
    const part = this.b.parts[j] as Part;
    const { what, motion, stretch, size } = differences(context, context.a.parts[i] as Part, part);
    const all = global ? [...what, globalMove(global, this.b)] : what;
    if (!all.length) return undefined;
    const summary = partSummary(this.b, part, j);
    const change: ChangeDraft = {
      kind: all.every((w) => w.aspect === 'placement') ? 'moved' : 'changed',
      part: summary,
      partA: partSummary(this.a, before, i),
      partB: summary,
      what: all,
      boxA: boxOf(before),
      boxB: boxOf(part),
      ...risesOf(before, part),
      size: round(size),
    };
    return { change, pair, detail: { motion, stretch, global: global !== undefined } };
  }

  private regroup(seen: Design): Regrouped[] {
    const restA: number[] = [];
    const restB: number[] = [];
    const reshaped: [number, number][] = [];
    for (const {
      change,
      pair: [i, j],
    } of this.listed) {
      if (i < 0) restB.push(j);
      else if (j < 0) restA.push(i);
      else if (change.what.some((w) => w.aspect === 'geometry')) reshaped.push([i, j]);
    }
    return restA.length + restB.length ? regrouped(seen, this.b, restA, restB, reshaped, this.tolerance) : [];
  }
}

function globalMove({ matrix, scale }: Registration, b: Design): ChangeDraft['what'][number] {
  const up = b.yUp ? -1 : 1;
  const n = (v: number): string => String(Math.round(v * 1e4) / 1e4).replace('-', '−');
  const turn = up * angleOf(matrix);
  const scaled = Math.abs(scale - 1) > 1e-6;
  const how: string[] = [];
  if (scaled) how.push(`× ${n(scale)}`);
  if (Math.abs(turn) > 1e-4) how.push(`turned ${n(turn)}°`);
  how.push(`by (${n(matrix[4])}, ${n(up * matrix[5])})`);
  return {
    aspect: scaled ? 'geometry' : 'placement',
    property: 'whole drawing',
    from: 'where it was',
    to: how.join(', '),
  };
}

const round = (n: number): number => Math.round(n * 1e4) / 1e4;

const boxOf = (part: Part): ChangeDraft['boxA'] =>
  part.box ? [round(part.box[0]), round(part.box[1]), round(part.box[2]), round(part.box[3])] : null;

const risesOf = (a: Part | undefined, b: Part | undefined): Pick<ChangeDraft, 'zA' | 'zB'> => {
  const [before, after] = [a?.space?.rise, b?.space?.rise];
  return {
    ...(before ? { zA: [round(before[0]), round(before[1])] } : {}),
    ...(after ? { zB: [round(after[0]), round(after[1])] } : {}),
  };
};

const extent = (part: Part): number => (part.box ? round(diagonal(part.box)) : 0);
