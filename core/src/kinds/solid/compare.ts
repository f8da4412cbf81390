/** Two models: their parts as those of drawings are, and where surfaces differ, what material came and went. */
import type { CauseDraft, ChangeDraft, Evidence } from '../../causes/draft.ts';
import { cardOf } from '../../formats/registry.ts';
import type { SolidMeasures } from '../../contract/comparison.ts';
import { deviationBetween, isSameSurface } from '../../mesh/deviation.ts';
import { measuresOf } from '../../mesh/measure.ts';
import { diagonal3, type Mesh } from '../../mesh/mesh.ts';
import { placePoint, type Placing } from '../../mesh/placing.ts';
import { turningOf } from '../../mesh/turning.ts';
import { engine } from '../../model/engines.ts';
import { orUnreadable, ReadError } from '../../model/problem.ts';
import type { Solid } from '../../model/solid.ts';
import { compareDesigns, type ComparedDesigns } from '../drawing/compare.ts';
import type { CompareSurfaces } from '../drawing/in-space.ts';
import { extentOfSolid } from './extent.ts';
import { withSameOrigins } from './origins.ts';
import { placesOf } from './places.ts';
import { provenanceNotes } from './provenance.ts';
import { withStoreys } from './storeys.ts';
import { surfaceOfPart, surfacesOfParts, wholeSurface } from './surfaces.ts';
import { inUnitOf, placedSolid, wholeMotion, type Whole } from './whole.ts';

/** Share of the size of a model within which places count as the same. */
const EXACT = 1e-6;
/** Parts whose places are looked for, the largest changes first. */
const MOST_RESHAPED = 24;
/** Triangles of both, beyond which surfaces are not laid over one another. */
const MOST_TRIANGLES = 3_000_000;

export interface SolidOptions {
  readonly tolerance?: number;
}

export interface ComparedSolids extends Evidence {
  readonly parts: readonly (readonly [number, number])[];
  readonly pairing: ComparedDesigns['pairing'];
  readonly tolerance: number;
  readonly measures: SolidMeasures;
  /** How A was moved as a whole, where it was. */
  readonly placing: Placing | undefined;
}

export async function compareSolids(givenA: Solid, givenB: Solid, options: SolidOptions = {}): Promise<ComparedSolids> {
  const [a, b] = withSameOrigins(...sayingTheSame(givenA, givenB));
  const tolerance = options.tolerance ?? toleranceOf(a, b);
  const whole = wholeMotion(a, b, tolerance);
  const laid = whole ? placedSolid(a, whole.placing) : a;
  const seen = whole?.only === 'units' ? inUnitOf(laid, b) : laid;
  const listed = compareDesigns(seen, b, { tolerance, surfaces: surfacesWithin(tolerance) });
  const compared = { ...listed, causes: exportedAnew(a, b, withStoreys(a, b, listed)) };
  const causes = [...(whole ? wholeCauses(a, b, whole, tolerance) : []), ...compared.causes];
  const found = await withPlaces({ a: seen, b }, { ...compared, causes });
  return {
    ...found,
    pairing: compared.pairing,
    tolerance,
    measures: measured(seen, b, tolerance),
    placing: whole?.placing,
    notes: [...compared.notes, ...found.notes, ...provenanceNotes(givenA, givenB)],
  };
}

/** What only one of two formats can say of a part is no difference between them. */
function sayingTheSame(a: Solid, b: Solid): readonly [Solid, Solid] {
  if (a.format === b.format) return [a, b];
  const [inA, inB] = [propertiesOf(a), propertiesOf(b)];
  const shared = new Set([...inA].filter((name) => inB.has(name)));
  const without = (solid: Solid): Solid => ({
    ...solid,
    parts: solid.parts.map((part) => ({
      ...part,
      props: Object.fromEntries(Object.entries(part.props).filter(([name]) => shared.has(name))),
    })),
  });
  return [without(a), without(b)];
}

const propertiesOf = ({ parts }: Solid): ReadonlySet<string> =>
  new Set(parts.flatMap(({ props }) => Object.keys(props)));

/** Only what lies within the distance that one asks for is the same; numbers that were rounded lie a little off. */
const surfacesWithin =
  (tolerance: number): CompareSurfaces =>
  (a, b, reach) => {
    if (!isSameSurface(a, b, Math.max(reach, 4 * tolerance))) return 'other';
    return isTurnedOver(a, b) ? 'inside out' : 'triangulated anew';
  };

/** What one side encloses the other leaves out; or faces look the other way here and there. */
function isTurnedOver(a: Mesh, b: Mesh): boolean {
  const [inA, inB] = [measuresOf(a), measuresOf(b)];
  if (!inA || !inB) return false;
  if (inA.isClosed && inB.isClosed) return inA.volume * inB.volume < 0;
  return (inA.edges.flipped === 0) !== (inB.edges.flipped === 0);
}

function toleranceOf(a: Solid, b: Solid): number {
  const size = Math.max(...[a, b].map((solid) => sizeOf(solid)));
  return size * EXACT || EXACT;
}

function sizeOf(solid: Solid): number {
  const extent = extentOfSolid(solid);
  return extent ? diagonal3(extent) : 0;
}

/** What was done to all of it comes before what was done to its parts. */
const WHOLE = 18;
const WRITTEN = 2;

function wholeCauses(a: Solid, b: Solid, { placing, only, ways = 1 }: Whole, tolerance: number): CauseDraft[] {
  const common = { changes: [], parts: b.parts.length };
  const [from, to] = [a.origin.units ?? 'none', b.origin.units ?? 'none'];
  if (only === 'units')
    return [{ ...common, kind: 'units', saying: { code: 'model-units', values: { from, to } }, weight: WHOLE }];
  if (only !== undefined)
    return [
      {
        ...common,
        kind: 'rewritten',
        saying: { code: 'y-up', values: { to: only === 'y-up' ? 'y' : 'z' } },
        weight: WRITTEN,
      },
    ];
  const turning = turningOf(placing);
  if (!turning) return [];
  const slack = 4 * tolerance + 1e-9 * sizeOf(b);
  const landed = placePoint(placing, [0, 0, 0]);
  const isShifted = Math.hypot(...landed) > slack;
  // Turned inside out and by half a turn is mirrored along the axis.
  const isTurned = turning.turn >= 0.01 && !(turning.mirrored && turning.turn > 179.99);
  const zeroed = (n: number): number => (Math.abs(n) <= slack ? 0 : n);
  const values = {
    ...(ways > 1 ? { ways } : {}),
    ...(turning.mirrored ? { mirrored: turning.axis } : {}),
    ...(Math.abs(turning.scale - 1) > 1e-6 ? { scale: turning.scale } : {}),
    ...(isTurned ? { turn: turning.turn, axis: turning.axis } : {}),
    ...(isShifted
      ? { shift: { dx: zeroed(landed[0]), dy: zeroed(landed[1]), dz: zeroed(landed[2]), unit: b.origin.units ?? '' } }
      : {}),
  };
  return [
    {
      ...common,
      kind: values.scale === undefined ? 'origin' : 'scale',
      saying: { code: 'model-placed', values },
      weight: WHOLE,
    },
  ];
}

/** Identities that a program made anew are no numbers that somebody gave. */
function exportedAnew(a: Solid, b: Solid, causes: readonly CauseDraft[]): CauseDraft[] {
  const program = b.origin.program !== a.origin.program ? (b.origin.program ?? '') : '';
  return causes.map((cause) => {
    if (cause.saying.code !== 'renumbered' || !cardOf(b.format)?.called) return cause;
    const values = { parts: b.parts.length, only: cause.saying.values.only, program };
    return { ...cause, saying: { code: 'identities-new', values } };
  });
}

interface Sides {
  readonly a: Solid;
  readonly b: Solid;
}

type Listed = Pick<ComparedDesigns, 'changes' | 'causes' | 'parts' | 'unchanged' | 'tolerance'>;

/** What was reshaped is told by what came and went of it, where that can be found out. */
async function withPlaces({ a, b }: Sides, compared: Listed): Promise<Evidence & Pick<ComparedDesigns, 'parts'>> {
  const changes: ChangeDraft[] = [...compared.changes];
  const parts = [...compared.parts];
  const reshaped = compared.changes
    .flatMap((change, k) => (change.what.some(isReshaping) && change.kind === 'changed' ? [k] : []))
    .sort((p, q) => (compared.changes[q]?.size ?? 0) - (compared.changes[p]?.size ?? 0))
    .slice(0, MOST_RESHAPED);
  const lent = reshaped.length > 0 ? await orUnreadable(engine('manifold')) : undefined;
  const manifold = lent instanceof ReadError ? undefined : lent;
  const told = new Set<number>();
  const causes: CauseDraft[] = [];
  for (const k of reshaped) {
    const [i, j] = parts[k] as readonly [number, number];
    const [meshA, meshB] = [surfaceOfPart(a, a.parts[i]), surfaceOfPart(b, b.parts[j])];
    const change = compared.changes[k] as ChangeDraft;
    if (!meshA || !meshB) continue;
    const found = placesOf(
      {
        a: meshA,
        b: meshB,
        part: change.part,
        called: b.parts.length > 1 ? change.part.name : '',
        tolerance: compared.tolerance,
        unit: b.origin.units ?? '',
      },
      manifold,
    );
    if (found.causes.length === 0) continue;
    told.add(k);
    const first = changes.length;
    changes.push(...found.changes);
    for (const _ of found.changes) parts.push([i, j]);
    for (const cause of found.causes)
      causes.push({ ...cause, changes: cause.changes.map((n) => (n < 0 ? k : first + n)) });
  }
  const left = compared.causes.flatMap((cause) => withoutTold(cause, told));
  return {
    changes,
    parts,
    causes: [...writtenOtherwise({ a, b }, compared, left), ...causes],
    unchanged: compared.unchanged,
    notes: [],
  };
}

const isReshaping = ({ aspect, property }: ChangeDraft['what'][number]): boolean =>
  aspect === 'geometry' && property === undefined;

/** Reshaped parts whose places are told need no other cause. */
function withoutTold(cause: CauseDraft, told: ReadonlySet<number>): CauseDraft[] {
  if (cause.kind !== 'reshaped') return [cause];
  const changes = cause.changes.filter((k) => !told.has(k));
  return changes.length === 0 ? [] : [{ ...cause, changes }];
}

/** What is only written otherwise is one cause, with how many triangles there are. */
function writtenOtherwise({ a, b }: Sides, { changes, parts }: Listed, causes: readonly CauseDraft[]): CauseDraft[] {
  const isAbout = (cause: CauseDraft, property: string): boolean =>
    cause.saying.code === 'property-changed' &&
    cause.changes.length > 0 &&
    cause.changes.every((k) => changes[k]?.what.some((w) => w.aspect === 'content' && w.property === property));
  const triangles = (solid: Solid, side: 0 | 1, cause: CauseDraft): number =>
    cause.changes.reduce((sum, k) => {
      const surface = surfaceOfPart(solid, solid.parts[parts[k]?.[side] ?? -1]);
      return sum + (surface?.triangles.length ?? 0) / 3;
    }, 0);
  return causes.map((cause) => {
    const count = cause.changes.length;
    if (isAbout(cause, 'faces'))
      return { ...cause, kind: 'surface', saying: { code: 'inside-out', values: { parts: count } } };
    if (!isAbout(cause, 'triangles')) return cause;
    const values = { parts: count, from: triangles(a, 0, cause), to: triangles(b, 1, cause) };
    return { ...cause, kind: 'triangulated', saying: { code: 'triangulated-anew', values } };
  });
}

function measured(a: Solid, b: Solid, tolerance: number): SolidMeasures {
  const [allA, allB] = [wholeSurface(a), wholeSurface(b)];
  const [inA, inB] = [measuresOf(allA), measuresOf(allB)];
  const size = (allA.triangles.length + allB.triangles.length) / 3;
  const pair = <T>(of: (side: NonNullable<typeof inA>) => T, none: T): [T, T] => [
    inA ? of(inA) : none,
    inB ? of(inB) : none,
  ];
  return {
    volume: pair(({ volume }) => volume, 0),
    area: pair(({ area }) => area, 0),
    closed: pair(({ isClosed }) => isClosed, false),
    centre: pair(({ centre }) => [...centre] as [number, number, number], [0, 0, 0]),
    open: pair(({ edges }) => edges.open, 0),
    flipped: pair(({ edges }) => edges.flipped, 0),
    triangles: [allA.triangles.length / 3, allB.triangles.length / 3],
    bodies: [surfacesOfParts(a).length, surfacesOfParts(b).length],
    deviation: size > MOST_TRIANGLES ? null : deviationBetween(allA, allB, 4 * tolerance),
  };
}
