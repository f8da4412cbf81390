/** Where on a part material came and went, and how it lies now where it encloses no body. */
import type { ManifoldToplevel } from 'manifold-3d';
import type { CauseDraft, ChangeDraft } from '../../causes/draft.ts';
import type { PartSummary } from '../../contract/comparison.ts';
import { bodiesOf } from '../../mesh/bodies.ts';
import { distancesOf, furthestFrom } from '../../mesh/deviation.ts';
import { boreOf, materialBetween, type Bore, type Material } from '../../mesh/material.ts';
import { measuresOf, type Measures } from '../../mesh/measure.ts';
import { boxOfPoints, type Box3, type Mesh, type Point3 } from '../../mesh/mesh.ts';
import { nearestOn } from '../../mesh/nearest.ts';

/** Places that are told one by one, of one part. */
const MOST = 24;
/** More places than this, none of which reaches far: the surface was made anew. */
const SCATTERED = 40;
/** Share of the size of a body that a surface made anew stays within. */
const NEAR = 5e-3;

export interface Place {
  readonly verb: 'added' | 'removed';
  readonly box: Box3;
  readonly volume: number;
  readonly deviation: number;
  readonly centre: Point3;
  readonly bore: Bore | undefined;
  /** It is a hole that came or went, and no pin. */
  readonly isHole: boolean;
}

export interface PlacesFound {
  readonly changes: readonly ChangeDraft[];
  /** Their changes are counted from 0 among `changes`; −1 is that of the part itself. */
  readonly causes: readonly CauseDraft[];
}

interface Reshaped {
  readonly a: Mesh;
  readonly b: Mesh;
  readonly part: PartSummary;
  /** The name that causes say; empty where there is but one part. */
  readonly called: string;
  readonly tolerance: number;
  readonly unit: string;
}

export function placesOf(reshaped: Reshaped, manifold: ManifoldToplevel | undefined): PlacesFound {
  const { a, b, tolerance } = reshaped;
  const material = manifold && materialBetween(manifold, a, b, 4 * tolerance);
  const places = material ? bodyPlaces(material, reshaped) : surfacePlaces(a, b, tolerance);
  places.sort((p, q) => q.volume - p.volume || q.deviation - p.deviation);
  const box = boxOfPoints(b.points);
  const size = box ? Math.hypot(box[3] - box[0], box[4] - box[1], box[5] - box[2]) : 0;
  const furthest = Math.max(0, ...places.map(({ deviation }) => deviation));
  if (places.length > SCATTERED && furthest <= NEAR * size) return madeAnew(reshaped, furthest);
  return told(reshaped, places, material !== undefined);
}

/** Bodies that are looked at closely: the largest, and the thickest of the others. */
const CLOSELY = 32;

interface BodyFound {
  readonly body: Mesh;
  readonly verb: Place['verb'];
  readonly measures: Measures;
  /** About how thick it is: as a slab of its volume and area. */
  readonly thickness: number;
}

function bodyPlaces({ added, removed }: Material, reshaped: Reshaped): Place[] {
  const found = [
    ...added.map((body) => ({ body, verb: 'added' as const })),
    ...removed.map((body) => ({ body, verb: 'removed' as const })),
  ].flatMap(({ body, verb }): BodyFound[] => {
    const measures = measuresOf(body);
    if (!measures) return [];
    return [{ body, verb, measures, thickness: (2 * Math.abs(measures.volume)) / (measures.area || 1) }];
  });
  const thinnest = 4 * reshaped.tolerance;
  found.sort((p, q) => Math.abs(q.measures.volume) - Math.abs(p.measures.volume));
  const rest = found.slice(CLOSELY).sort((p, q) => q.thickness - p.thickness);
  const looked = [...found.slice(0, CLOSELY), ...rest.slice(0, CLOSELY)];
  return [
    ...looked.flatMap((one) => placeOf(one, reshaped)),
    ...rest.slice(CLOSELY).flatMap((one) => (one.thickness > thinnest ? [roughly(one)] : [])),
  ];
}

const roughly = ({ verb, measures, thickness }: BodyFound): Place => ({
  verb,
  box: measures.box,
  volume: Math.abs(measures.volume),
  deviation: thickness,
  centre: measures.centre,
  bore: undefined,
  isHole: false,
});

/** Nothing where it lies within the tolerance: that is where the two were rounded otherwise. */
function placeOf({ body, verb, measures }: BodyFound, reshaped: Reshaped): Place[] {
  const { a, b, tolerance } = reshaped;
  // Its surface is partly that of A and partly that of B.
  const deviation = Math.max(furthestFrom(a, body), furthestFrom(b, body));
  if (deviation <= 4 * tolerance) return [];
  const bore = boreOf(body);
  return [
    {
      verb,
      box: thickPart(body, reshaped) ?? measures.box,
      volume: Math.abs(measures.volume),
      deviation,
      centre: measures.centre,
      bore,
      // The wall of a hole is of the side that has it.
      isHole: bore !== undefined && liesOn(verb === 'removed' ? b : a, bore.wall, deviation),
    },
  ];
}

/** The box of a body without thin skins that hang on to it, where both sides were only rounded otherwise. */
function thickPart({ points, triangles }: Mesh, { a, b, tolerance }: Reshaped): Box3 | undefined {
  const [onA, onB] = [nearestOn(a), nearestOn(b)];
  const kept: number[] = [];
  for (let t = 0; t < triangles.length; t += 3) {
    const corners = [0, 1, 2].map((k) => 3 * (triangles[t + k] as number));
    const along = (axis: number): number => corners.reduce((sum, at) => sum + (points[at + axis] as number), 0) / 3;
    const middle = [along(0), along(1), along(2)] as const;
    const far = Math.max(...[onA, onB].map((side) => Math.abs(side.signed(...middle) ?? 0)));
    if (far > 4 * tolerance) for (const at of corners) kept.push(...points.subarray(at, at + 3));
  }
  return boxOfPoints(Float64Array.from(kept));
}

const liesOn = (surface: Mesh, [x, y, z]: Point3, deviation: number): boolean =>
  Math.abs(nearestOn(surface).signed(x, y, z) ?? Infinity) < 0.1 * deviation;

/** Pieces of B's surface that lie off A's, each as far as it hangs together. */
function surfacePlaces(a: Mesh, b: Mesh, tolerance: number): Place[] {
  const distances = distancesOf(b, a);
  const far = (corner: number): boolean => Math.abs(distances[corner] as number) > 4 * tolerance;
  return (['added', 'removed'] as const).flatMap((verb) => {
    const sign = verb === 'added' ? 1 : -1;
    const off: number[] = [];
    for (let t = 0; t < b.triangles.length; t += 3) {
      const corners = [t, t + 1, t + 2];
      if (corners.some((corner) => far(corner) && sign * (distances[corner] as number) > 0))
        off.push(...b.triangles.subarray(t, t + 3));
    }
    if (off.length === 0) return [];
    return bodiesOf({ points: b.points, triangles: Uint32Array.from(off) }).flatMap((piece): Place[] => {
      const measures = measuresOf(piece);
      if (!measures) return [];
      return [
        {
          verb,
          box: measures.box,
          volume: 0,
          deviation: furthestFrom(a, piece),
          centre: measures.centre,
          bore: undefined,
          isHole: false,
        },
      ];
    });
  });
}

function madeAnew({ a, b, called, unit }: Reshaped, deviation: number): PlacesFound {
  const values = { from: a.triangles.length / 3, to: b.triangles.length / 3, deviation, part: called, unit };
  return {
    changes: [],
    causes: [{ kind: 'surface', saying: { code: 'surface-made-anew', values }, changes: [-1] }],
  };
}

function told({ part, called, unit }: Reshaped, places: readonly Place[], areBodies: boolean): PlacesFound {
  const named = places.slice(0, MOST);
  const rest = places.slice(MOST);
  const causes = named.map((place, k): CauseDraft => {
    const { verb, box, volume, deviation, centre, bore, isHole } = place;
    const size = [box[3] - box[0], box[4] - box[1], box[5] - box[2]] as const;
    const common = { part: called, size, at: bore?.centre ?? centre, deviation, unit };
    if (!areBodies) {
      const way = verb === 'added' ? ('outwards' as const) : ('inwards' as const);
      return { kind: 'surface', saying: { code: 'surface-moved', values: { ...common, way } }, changes: [-1, k] };
    }
    const round = bore ? { bore: { diameter: bore.diameter, depth: bore.depth, axis: bore.axis, isHole } } : {};
    return {
      kind: 'material',
      saying: { code: 'material', values: { ...common, verb, volume, ...round } },
      changes: [-1, k],
      parts: 1,
    };
  });
  if (rest.length > 0) {
    const sum = (verb: Place['verb']): number =>
      rest.reduce((n, place) => n + (place.verb === verb ? place.volume : 0), 0);
    const values = { places: rest.length, added: sum('added'), removed: sum('removed'), part: called, unit };
    causes.push({ kind: 'material', saying: { code: 'more-material', values }, changes: [-1], weight: 3 });
  }
  return { changes: named.map((place) => changeOf(part, place)), causes };
}

const round = (n: number): number => Math.round(n * 1e6) / 1e6;

function changeOf(host: PartSummary, { verb, box, volume, deviation, bore, isHole }: Place): ChangeDraft {
  const kind = isHole ? 'hole' : 'material';
  const flat = [round(box[0]), round(box[1]), round(box[3]), round(box[4])] as [number, number, number, number];
  const rise = [round(box[2]), round(box[5])] as [number, number];
  const part = { ...host, kind, name: `${kind === 'hole' ? '' : `${verb}, `}on ${host.name}`, key: null };
  return {
    kind: 'changed',
    part,
    partA: part,
    partB: part,
    what: [{ aspect: 'geometry', property: 'material', from: 'as it was', to: verb }],
    boxA: flat,
    boxB: flat,
    zA: rise,
    zB: rise,
    material: {
      volume: round(verb === 'added' ? volume : -volume),
      deviation: round(deviation),
      ...(bore ? { diameter: round(bore.diameter), axis: [...bore.axis] as [number, number, number] } : {}),
    },
    size: round(deviation),
  };
}
