/** A building model as it is written: its storeys and elements, with what is said of each in relations. */
import { createGlobalId } from './global-id.ts';
import type { Limits } from '../../model/limits.ts';
import { ReadError } from '../../model/problem.ts';
import type { Fields, Source } from '../../model/source.ts';
import { kept, PiecedSource, type Piece, type WantedPiece } from '../shared/pieced-source.ts';
import { scanStep, type StepFile } from '../shared/step21/scan.ts';
import { Ref } from '../shared/step21/values.ts';
import { Assembly } from './assembly.ts';
import { buildingIn } from './graph.ts';
import {
  identityOf,
  isPlace,
  namedIn,
  nameOfField,
  PLACE,
  setOfRelation,
  SHAPE,
  type BuildingSide,
  type FieldName,
} from './fields.ts';
import { Meanings } from './meaning.ts';
import { HOLE, Relations } from './relations.ts';

/** The first value behind identity and owner. */
const FIRST = 2;

/** Throws ReadError for what is no building model. */
export function sourceOfIfc(bytes: Uint8Array, limits: Limits): Source {
  const file = scanStep(bytes, limits.elements);
  if (!file.isWhole)
    throw new ReadError('The model is cut off: what cannot be read whole cannot be written.', file.end);
  return new IfcSource(file, bytes);
}

class IfcSource extends PiecedSource implements BuildingSide {
  readonly format = 'ifc';
  readonly file: StepFile;
  readonly relations: Relations;
  readonly meanings: Meanings;
  /** Numbers of the records of the pieces. */
  readonly records: readonly number[];
  readonly original: Uint8Array;
  private readonly byKey: ReadonlyMap<string, number>;
  private readonly pieceRecords: ReadonlySet<number>;

  constructor(file: StepFile, original: Uint8Array) {
    const { storeys, elements } = buildingIn(file);
    const records = [...storeys, ...elements].map(({ id }) => id);
    const relations = new Relations(file);
    const meanings = new Meanings(file);
    super(new Pieces(file, relations, meanings, records).all());
    this.file = file;
    this.original = original;
    this.records = records;
    this.pieceRecords = new Set(records);
    this.relations = relations;
    this.meanings = meanings;
    this.byKey = new Map(records.map((id) => [identityOf(file, id), id]));
  }

  isPiece(record: number): boolean {
    return this.pieceRecords.has(record);
  }

  recordOf(piece: number): number {
    return this.records[piece] as number;
  }

  recordCalled(key: string): number | undefined {
    return this.byKey.get(key);
  }

  identityHere(other: BuildingSide, key: string): string | undefined {
    return other instanceof IfcSource ? this.keyHere(other, key) : undefined;
  }

  override free(key: string, taken: (key: string) => boolean): string {
    for (let n = 1; ; n++) {
      const id = `#${createGlobalId(`${key} ${n}`)}`;
      if (!taken(id)) return id;
    }
  }

  protected made(wanted: readonly WantedPiece<this>[]): Uint8Array {
    return new Assembly(this, wanted).made();
  }
}

class Pieces {
  private readonly file: StepFile;
  private readonly relations: Relations;
  private readonly meanings: Meanings;
  private readonly records: readonly number[];
  private readonly isPiece: ReadonlySet<number>;
  /** By the record of a place: what stands there. */
  private readonly placed = new Map<number, number>();

  constructor(file: StepFile, relations: Relations, meanings: Meanings, records: readonly number[]) {
    this.file = file;
    this.relations = relations;
    this.meanings = meanings;
    this.records = records;
    this.isPiece = new Set(records);
    for (const id of records) {
      const place = file.values(id)[PLACE];
      if (place instanceof Ref) this.placed.set(place.id, id);
    }
  }

  all(): Piece[] {
    return this.records.map((id) => {
      const said = kept(() => this.saidOf(id));
      return {
        key: identityOf(this.file, id),
        needs: this.needsOf(id),
        start: this.file.span(id)[0],
        fields: (rename) => this.spelled(said(), rename),
      };
    });
  }

  /** Only identities of other pieces depend on who asks. */
  private spelled(
    said: ReadonlyMap<string, readonly [said: string, other: number | undefined][]>,
    rename: (key: string) => string,
  ): Fields {
    return new Map(
      [...said].map(([name, parts]) => [
        name,
        parts
          .map(([words, other]) => words + (other === undefined ? '' : rename(identityOf(this.file, other))))
          .sort()
          .join(' '),
      ]),
    );
  }

  private saidOf(id: number): Map<string, [said: string, other: number | undefined][]> {
    const { file, meanings, relations } = this;
    const said = new Map<string, [string, number | undefined][]>();
    const add = (field: FieldName, words: string, other?: number): void => {
      const name = nameOfField(field);
      const known = said.get(name);
      if (known) known.push([words, other]);
      else said.set(name, [[words, other]]);
    };
    const values = file.values(id);
    values.forEach((value, place) => {
      if (place < FIRST || place === PLACE || place === SHAPE || value === null) return;
      add({ of: 'value', place }, meanings.value(value));
    });
    const place = values[PLACE];
    if (place instanceof Ref) add({ of: 'place' }, `${meanings.of(place.id)} `, this.holderOfPlace(place.id));
    const shape = values[SHAPE];
    if (shape instanceof Ref) add({ of: 'shape' }, meanings.of(shape.id));
    for (const hole of relations.holesIn(id)) add({ of: 'holes' }, this.meaningOfHole(hole));
    for (const { type, relating } of relations.of(id)) {
      const field: FieldName = { of: 'relation', type, set: setOfRelation(file, type, relating) };
      if (this.isPiece.has(relating)) add(field, '', relating);
      else add(field, this.meaningOfRelating(relating));
    }
    return said;
  }

  private holderOfPlace(place: number): number | undefined {
    const [within] = this.file.values(place);
    return within instanceof Ref ? this.placed.get(within.id) : undefined;
  }

  private meaningOfHole(relation: number): string {
    const hole = this.file.values(relation)[HOLE.related];
    return hole instanceof Ref ? this.meanings.of(hole.id) : '';
  }

  /** Buildings and sites are who they are by their names. */
  private meaningOfRelating(id: number): string {
    const type = this.file.typeOf(id) ?? '';
    const values = this.file.values(id);
    return isPlace(type) ? `${type} ${namedIn(values)}` : this.meanings.of(id);
  }

  private needsOf(id: number): string[] {
    const { file, relations } = this;
    const place = file.values(id)[PLACE];
    const holders = relations.of(id).flatMap(({ relating }) => (this.isPiece.has(relating) ? [relating] : []));
    const within = place instanceof Ref ? this.holderOfPlace(place.id) : undefined;
    return [...new Set([...holders, ...(within === undefined ? [] : [within])])].map((other) =>
      identityOf(file, other),
    );
  }
}
