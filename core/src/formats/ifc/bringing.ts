/** Brings records of one building model into another, with all that they refer to and that is not there yet. */
import { Ref, type Value } from '../shared/step21/values.ts';
import type { Rewriting } from '../shared/step21/rewriting.ts';
import { withRefs } from '../shared/step21/statement.ts';
import { isRooted } from './meaning.ts';
import { identityOf, isPlace, namedIn, PLACE, type BuildingSide } from './fields.ts';

/** Records of a type, beyond which nobody looks for an equal one. */
const MOST_COMPARED = 20_000;
/** Equal ones are none the less two. */
const NEVER_SHARED = /^IFC(?:LOCALPLACEMENT|GRIDPLACEMENT|LINEARPLACEMENT|PRODUCTDEFINITIONSHAPE)$/;
const HOLE = /^IFC(?:OPENING|VOIDING)/;
const CONTEXT = /^IFCGEOMETRICREPRESENTATION(?:SUB)?CONTEXT$/;

/** The model that records are brought into. */
export interface Into {
  readonly source: BuildingSide;
  readonly rewriting: Rewriting;
  /** An identity that nothing there has. */
  freeIdentity(wanted: string): string;
}

export class Bringing {
  private readonly into: Into;
  private readonly other: BuildingSide;
  private readonly numbers = new Map<number, number>();
  private readonly isOwn: boolean;
  /** By a place: the piece that stands there. */
  private readonly placed = new Map<number, number>();
  /** By type, what records here mean. */
  private readonly meant = new Map<string, ReadonlyMap<string, number>>();

  constructor(into: Into, other: BuildingSide) {
    this.into = into;
    this.other = other;
    this.isOwn = other === into.source;
    for (const record of other.records) {
      const place = other.file.values(record)[PLACE];
      if (place instanceof Ref) this.placed.set(place.id, record);
    }
  }

  /** A piece comes under this number. */
  expect(record: number, number: number): void {
    this.numbers.set(record, number);
  }

  /** The number of a piece here; undefined where it is not here and does not come. */
  known(record: number): number | undefined {
    if (this.isOwn) return record;
    const coming = this.numbers.get(record);
    if (coming !== undefined) return coming;
    const { source, rewriting } = this.into;
    const identity = source.identityHere(this.other, identityOf(this.other.file, record));
    const there = identity === undefined ? undefined : source.recordCalled(identity);
    return there !== undefined && rewriting.isThere(there) ? there : undefined;
  }

  /** What a relation relates to: pieces and openings only where they are here. */
  related(record: number): number | undefined {
    const type = this.other.file.typeOf(record) ?? '';
    if (this.other.isPiece(record)) return this.known(record);
    return HOLE.test(type) ? this.sameIdentity(type, record) : this.record(record);
  }

  /** The number here of a record and of all that it refers to. */
  record(id: number): number {
    if (this.isOwn) return id;
    const known = this.numbers.get(id) ?? this.there(id);
    if (known !== undefined) {
      this.numbers.set(id, known);
      return known;
    }
    return this.copied(id);
  }

  private there(id: number): number | undefined {
    const type = this.other.file.typeOf(id) ?? '';
    const standing = this.placed.get(id);
    if (standing !== undefined && !this.numbers.has(standing)) return this.placeOf(standing);
    if (this.other.isPiece(id)) return this.known(id);
    if (CONTEXT.test(type)) return this.context(type, this.other.file.values(id));
    if (isPlace(type)) return this.samePlace(type, id);
    if (NEVER_SHARED.test(type) || HOLE.test(type)) return undefined;
    return this.equal(type, id);
  }

  private placeOf(standing: number): number | undefined {
    const number = this.known(standing);
    const place = number === undefined ? undefined : this.into.source.file.values(number)[PLACE];
    return place instanceof Ref ? place.id : undefined;
  }

  private sameIdentity(type: string, id: number): number | undefined {
    const { file } = this.into.source;
    const identity = identityOf(this.other.file, id);
    return file.ofType(type).find((own) => identityOf(file, own) === identity && this.into.rewriting.isThere(own));
  }

  private samePlace(type: string, id: number): number | undefined {
    const { file } = this.into.source;
    const all = file.ofType(type);
    const name = namedIn(this.other.file.values(id));
    return this.sameIdentity(type, id) ?? all.find((own) => namedIn(file.values(own)) === name) ?? all[0];
  }

  private context(type: string, values: readonly Value[]): number | undefined {
    const { file } = this.into.source;
    const all = file.ofType(type);
    return all.find((own) => file.values(own)[0] === values[0] && file.values(own)[1] === values[1]) ?? all[0];
  }

  private equal(type: string, id: number): number | undefined {
    const { source, rewriting } = this.into;
    const all = source.file.ofType(type);
    if (all.length > MOST_COMPARED) return undefined;
    let meant = this.meant.get(type);
    if (!meant) {
      meant = new Map(all.map((own) => [source.meanings.of(own), own]));
      this.meant.set(type, meant);
    }
    const there = meant.get(this.other.meanings.of(id));
    return there !== undefined && rewriting.isThere(there) ? there : undefined;
  }

  private copied(id: number): number {
    const { rewriting } = this.into;
    const { file, meanings } = this.other;
    const number = rewriting.freeNumber();
    this.numbers.set(id, number);
    const said = withRefs(file.said(id).replace(/^#\d+/, ''), (ref) => this.record(ref));
    rewriting.add(number, `#${number}${this.withIdentity(said, file.values(id))}`);
    for (const about of meanings.describing(id)) if (!this.numbers.has(about)) this.copied(about);
    return number;
  }

  private withIdentity(said: string, values: readonly Value[]): string {
    const identity = values[0];
    if (!isRooted(values) || typeof identity !== 'string') return said;
    return said.replace(identity, () => this.into.freeIdentity(identity));
  }
}
