/** What is told of a piece of a building model, field by field, and how the fields are called. */
import type { StepFile } from '../shared/step21/scan.ts';
import type { Value } from '../shared/step21/values.ts';
import { isRooted, type Meanings } from './meaning.ts';
import type { Relations } from './relations.ts';

/** Values of an element that are told otherwise than by themselves. */
export const [PLACE, SHAPE] = [5, 6] as const;
const OF_SETS = 'IFCRELDEFINESBYPROPERTIES';

/** What a field of a piece is about. */
export type FieldName =
  | { readonly of: 'value'; readonly place: number }
  | { readonly of: 'place' | 'shape' | 'holes' }
  | { readonly of: 'relation'; readonly type: string; readonly set: string };

export const nameOfField = (field: FieldName): string => {
  if (field.of === 'value') return `value ${field.place}`;
  return field.of === 'relation' ? `relation ${field.type} ${field.set}` : field.of;
};

export function fieldCalled(name: string): FieldName {
  const [of = '', first = '', ...rest] = name.split(' ');
  if (of === 'value') return { of, place: Number(first) };
  if (of === 'relation') return { of, type: first, set: rest.join(' ') };
  return { of: of as 'place' | 'shape' | 'holes' };
}

/** A building model that takes part in another one being made. */
export interface BuildingSide {
  readonly file: StepFile;
  readonly original: Uint8Array;
  readonly relations: Relations;
  readonly meanings: Meanings;
  /** Numbers of the records of the pieces. */
  readonly records: readonly number[];
  isPiece(record: number): boolean;
  recordOf(piece: number): number;
  recordCalled(key: string): number | undefined;
  /** The identity here of a piece of another file. */
  identityHere(other: BuildingSide, key: string): string | undefined;
}

export function identityOf(file: StepFile, id: number): string {
  const [identity] = file.values(id);
  return typeof identity === 'string' ? identity : '';
}

export const isPlace = (type: string): boolean =>
  /^IFC(?:PROJECT|SITE|BUILDING|FACILITY|FACILITYPART|SPACE)$/.test(type);

export const namedIn = (values: readonly Value[]): string =>
  isRooted(values) && typeof values[2] === 'string' ? values[2] : '';

/** Sets of properties are told one by one; of other relations, all of one kind together. */
export const setOfRelation = (file: StepFile, type: string, relating: number): string =>
  type === OF_SETS ? namedIn(file.values(relating)) : '';
