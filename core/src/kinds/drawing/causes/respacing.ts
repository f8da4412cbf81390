/** Evenly set parts that were set anew at another distance: balusters, bolts, lines of a grid. */
import { along, evenly, likenessOf, type Axis } from '../../../match/rows.ts';
import type { Part } from '../../../model/design.ts';
import { grouped, type DrawingEvidence, type Explanation, type Facet, type Open } from './open.ts';
import { thoseOf } from './words.ts';

/** Fewer may stand evenly by chance. */
const LEAST = 3;

export function respacing(open: Open): Explanation[] {
  const { evidence: e } = open;
  const moved = open.facets((_, w, k) => {
    const motion = e.details[k]?.motion;
    const isShift = motion && !motion.mirrored && Math.abs(motion.turn) < 0.01 && Math.abs(motion.scale - 1) < 1e-6;
    return w?.aspect === 'placement' && w.property === undefined && isShift === true;
  });
  return grouped(moved, ([k]) => likenessOf(e.b.parts[e.parts[k]?.[1] ?? -1], e.tolerance)).flatMap(([, group]) =>
    rowsOf(e, group),
  );
}

/** Rows along the sheet and across it. */
function rowsOf(e: DrawingEvidence, group: readonly Facet[]): Explanation[] {
  const rows = ([0, 1] as const).flatMap((axis) => {
    const across = axis === 0 ? 1 : 0;
    const byLine = grouped(group, (facet) => {
      const [before, after] = placesOf(e, facet);
      const stays = Math.abs(along(before, across) - along(after, across)) <= 4 * e.tolerance;
      return stays ? String(Math.round(along(before, across) / (16 * e.tolerance))) : undefined;
    });
    return byLine.flatMap(([, row]) => respaced(e, row, axis) ?? []);
  });
  // A grid has many rows that were set alike.
  const alike = grouped(
    rows.flatMap(({ facets }) => facets),
    (facet) => rows.find(({ facets }) => facets.includes(facet))?.key,
  );
  return alike.map(([key, facets]): Explanation => {
    const { from, to } = rows.find((row) => row.key === key) as Row;
    const values = { who: thoseOf(e, facets), from, to, unit: e.unit };
    return { kind: 'motion', saying: { code: 'respaced', values }, facets };
  });
}

interface Row {
  readonly key: string;
  readonly from: number;
  readonly to: number;
  readonly facets: readonly Facet[];
}

/** Undefined where they do not stand evenly before and after. */
function respaced(e: DrawingEvidence, row: readonly Facet[], axis: Axis): Row | undefined {
  if (row.length < LEAST) return undefined;
  const places = row.map((facet): readonly [number, number] => {
    const [before, after] = placesOf(e, facet);
    return [along(before, axis), along(after, axis)];
  });
  places.sort(([p], [q]) => p - q);
  const reach = 8 * e.tolerance;
  const before = evenly(
    places.map(([place]) => place),
    reach,
  );
  const after = evenly(
    places.map(([, place]) => place),
    reach,
  );
  if (!before || !after || Math.abs(before.pitch - after.pitch) <= reach) return undefined;
  if (before.steps.some((step, k) => step !== after.steps[k])) return undefined;
  const [from, to] = [before.pitch, after.pitch];
  return { key: `${from.toPrecision(5)} ${to.toPrecision(5)}`, from, to, facets: row };
}

/** A part before and after. */
function placesOf(e: DrawingEvidence, [k]: Facet): readonly [Part, Part] {
  const [i, j] = e.parts[k] as readonly [number, number];
  return [e.a.parts[i] as Part, e.b.parts[j] as Part];
}
