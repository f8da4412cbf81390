/** Which relations an element of a building model is in (ISO 16739-1: IfcRelationship). */
import type { StepFile } from '../shared/step21/scan.ts';
import { Ref, type Value } from '../shared/step21/values.ts';

/** Places of what is related, and of what it is related to, among the values of a relation. */
export interface RelationShape {
  readonly related: number;
  readonly relating: number;
  /** It relates one alone, not a list. */
  readonly single?: true;
}

/** An opening is cut out of something; something stands in an opening. */
export const VOIDS = 'IFCRELVOIDSELEMENT';
export const FILLS = 'IFCRELFILLSELEMENT';

const ASSIGNED: RelationShape = { related: 4, relating: 6 };
const HELD: RelationShape = { related: 5, relating: 4 };
const USUAL: RelationShape = { related: 4, relating: 5 };

const shapes: Readonly<Record<string, RelationShape>> = {
  IFCRELAGGREGATES: HELD,
  IFCRELNESTS: HELD,
  IFCRELDECLARES: HELD,
  [FILLS]: { ...HELD, single: true },
  IFCRELCONTAINEDINSPATIALSTRUCTURE: USUAL,
  IFCRELREFERENCEDINSPATIALSTRUCTURE: USUAL,
  IFCRELDEFINESBYTYPE: USUAL,
  IFCRELDEFINESBYPROPERTIES: USUAL,
  IFCRELASSIGNSTOGROUP: ASSIGNED,
};

/** Undefined for relations of another kind: between two elements, of openings. */
export const shapeOfRelation = (type: string): RelationShape | undefined =>
  shapes[type] ?? (type.startsWith('IFCRELASSOCIATES') ? USUAL : undefined);

export const HOLE: RelationShape = { related: 5, relating: 4 };

/** An element is one of those that a relation relates to something. */
export interface Membership {
  readonly relation: number;
  readonly type: string;
  readonly relating: number;
}

export class Relations {
  private readonly memberships = new Map<number, Membership[]>();
  private readonly holes = new Map<number, number[]>();
  /** By a record: all relations that name it. */
  private readonly naming = new Map<number, number[]>();

  constructor(file: StepFile) {
    for (const type of file.types) {
      if (!type.startsWith('IFCREL')) continue;
      const shape = shapeOfRelation(type);
      for (const relation of file.ofType(type)) {
        const values = file.values(relation);
        for (const id of new Set(values.flatMap(refsIn))) append(this.naming, id, relation);
        if (type === VOIDS) this.addHole(relation, values);
        if (!shape) continue;
        const relating = values[shape.relating];
        if (!(relating instanceof Ref)) continue;
        for (const id of refsIn(values[shape.related]))
          append(this.memberships, id, { relation, type, relating: relating.id });
      }
    }
  }

  of(id: number): readonly Membership[] {
    return this.memberships.get(id) ?? [];
  }

  /** Relations to openings in it. */
  holesIn(id: number): readonly number[] {
    return this.holes.get(id) ?? [];
  }

  named(id: number): readonly number[] {
    return this.naming.get(id) ?? [];
  }

  private addHole(relation: number, values: readonly Value[]): void {
    const [host, hole] = [values[HOLE.relating], values[HOLE.related]];
    if (host instanceof Ref && hole instanceof Ref) append(this.holes, host.id, relation);
  }
}

export function refsIn(value: Value | undefined): number[] {
  if (value instanceof Ref) return [value.id];
  return Array.isArray(value) ? (value as readonly Value[]).flatMap((one) => (one instanceof Ref ? [one.id] : [])) : [];
}

export function append<T>(map: Map<number, T[]>, key: number, value: T): void {
  const list = map.get(key);
  if (list) list.push(value);
  else map.set(key, [value]);
}
