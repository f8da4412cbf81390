/** A building model made anew: pieces that go, pieces that come from other files, and what is changed of those that stay. */
import { ReadError } from '../../model/problem.ts';
import type { PieceOf, WantedPiece } from '../shared/pieced-source.ts';
import { Rewriting } from '../shared/step21/rewriting.ts';
import { listed, refsOf, statementOf, withRefs, written, type Statement } from '../shared/step21/statement.ts';
import { Ref } from '../shared/step21/values.ts';
import { Bringing, type Into } from './bringing.ts';
import { createGlobalId } from './global-id.ts';
import { describedBy } from './meaning.ts';
import { FILLS, HOLE, shapeOfRelation, VOIDS, type Membership } from './relations.ts';
import { fieldCalled, nameOfField, PLACE, setOfRelation, SHAPE, type BuildingSide, type FieldName } from './fields.ts';

export class Assembly implements Into {
  readonly source: BuildingSide;
  readonly rewriting: Rewriting;
  private readonly wanted: readonly WantedPiece<BuildingSide>[];
  private readonly bringings = new Map<BuildingSide, Bringing>();
  /** By type and what is related to: the relation. */
  private readonly relations = new Map<string, number>();
  private identities: Set<string> | undefined;

  constructor(source: BuildingSide, wanted: readonly WantedPiece<BuildingSide>[]) {
    this.source = source;
    this.wanted = wanted;
    this.rewriting = new Rewriting(source.file, source.original);
    this.findRelations();
  }

  made(): Uint8Array {
    const { source, rewriting } = this;
    const staying = this.wanted.filter((piece) => piece.source === source);
    const coming = this.wanted
      .filter((piece) => piece.source !== source)
      .map((piece) => ({ ...piece, number: rewriting.freeNumber() }));
    for (const { source: other, piece, number } of coming) this.from(other).expect(other.recordOf(piece), number);
    const kept = new Set(staying.map(({ piece }) => source.recordOf(piece)));
    for (const record of source.records) if (!kept.has(record)) this.takeOut(record);
    for (const { piece, fields } of staying) this.change(source.recordOf(piece), fields);
    for (const piece of coming) this.put(piece.number, piece);
    rewriting.clearUp((id) => this.described(id));
    return rewriting.made();
  }

  /** An identity that nothing here has. */
  freeIdentity(wanted: string): string {
    this.identities ??= this.identitiesThere();
    let identity = wanted;
    for (let n = 1; this.identities.has(identity); n++) identity = createGlobalId(`${wanted} ${n}`);
    this.identities.add(identity);
    return identity;
  }

  private identitiesThere(): Set<string> {
    const found = new Set<string>();
    for (const id of this.rewriting.ids()) {
      const identity = /\(\s*'([0-9A-Za-z_$]{22})'/.exec(this.rewriting.said(id).slice(0, 120))?.[1];
      if (identity !== undefined) found.add(identity);
    }
    return found;
  }

  private from(other: BuildingSide): Bringing {
    let bringing = this.bringings.get(other);
    if (!bringing) {
      bringing = new Bringing(this, other);
      this.bringings.set(other, bringing);
    }
    return bringing;
  }

  private findRelations(): void {
    const { file } = this.source;
    for (const type of file.types) {
      const shape = type.startsWith('IFCREL') ? shapeOfRelation(type) : undefined;
      if (!shape) continue;
      for (const id of file.ofType(type)) {
        const relating = file.values(id)[shape.relating];
        if (relating instanceof Ref) this.relations.set(`${type} ${relating.id}`, id);
      }
    }
  }

  private described(id: number): number | undefined {
    const { file } = this.source;
    if (file.typeOf(id) !== undefined) return describedBy(file.typeOf(id), file.values(id));
    return undefined;
  }

  private statement(id: number): Statement {
    const statement = statementOf(this.rewriting.said(id));
    if (!statement) throw new ReadError(`Record #${id} of the model cannot be changed.`, undefined, 'unsupported');
    return statement;
  }

  private setValue(id: number, place: number, said: string): void {
    const statement = this.statement(id);
    statement.values[place] = said;
    this.rewriting.change(id, written(statement));
  }

  /** With its openings, and without any relation that names it. */
  private takeOut(record: number): void {
    const { relations, file } = this.source;
    this.rewriting.remove(record);
    for (const relation of relations.named(record)) {
      if (!this.rewriting.isThere(relation)) continue;
      const hole = file.typeOf(relation) === VOIDS ? file.values(relation)[HOLE.related] : undefined;
      if (hole instanceof Ref && hole.id !== record) this.takeOut(hole.id);
      this.leave(record, relation);
    }
  }

  /** A relation without this member; it goes where that was its last one, or what it is about. */
  private leave(record: number, relation: number): void {
    const shape = shapeOfRelation(this.source.file.typeOf(relation) ?? '');
    const statement = this.statement(relation);
    const members = refsOf(shape ? (statement.values[shape.related] ?? '') : '');
    const left = members.filter((id) => id !== record);
    if (!shape || left.length === 0 || left.length === members.length) this.rewriting.remove(relation);
    else this.setValue(relation, shape.related, listed(left));
  }

  private change(record: number, fields: ReadonlyMap<string, PieceOf<BuildingSide>>): void {
    for (const [name, { source: other, piece }] of fields)
      this.changeField(record, fieldCalled(name), other, other.recordOf(piece));
  }

  private changeField(record: number, field: FieldName, other: BuildingSide, theirs: number): void {
    switch (field.of) {
      case 'value':
        this.setValue(record, field.place, this.valueOf(other, theirs, field.place));
        return;
      case 'shape':
        this.setValue(record, SHAPE, this.valueOf(other, theirs, SHAPE));
        return;
      case 'place':
        this.place(record, other, theirs);
        return;
      case 'holes':
        for (const relation of this.source.relations.holesIn(record)) this.takeHole(relation);
        this.putHoles(record, other, theirs);
        return;
      default:
        this.relate(record, nameOfField(field), other, theirs);
    }
  }

  private valueOf(other: BuildingSide, theirs: number, place: number): string {
    const said = statementOf(other.file.said(theirs))?.values[place];
    return said === undefined ? '$' : withRefs(said, (id) => this.from(other).record(id));
  }

  /** What stands on the same place goes along: the place itself says where it is. */
  private place(record: number, other: BuildingSide, theirs: number): void {
    const own = this.source.file.values(record)[PLACE];
    const there = other.file.values(theirs)[PLACE];
    if (!(own instanceof Ref) || !(there instanceof Ref)) {
      this.setValue(record, PLACE, this.valueOf(other, theirs, PLACE));
      return;
    }
    for (const value of [0, 1]) this.setValue(own.id, value, this.valueOf(other, there.id, value));
  }

  private takeHole(relation: number): void {
    const hole = this.source.file.values(relation)[HOLE.related];
    if (hole instanceof Ref) this.takeOut(hole.id);
  }

  private putHoles(record: number, other: BuildingSide, theirs: number): void {
    for (const relation of other.relations.holesIn(theirs)) {
      const hole = other.file.values(relation)[HOLE.related];
      if (!(hole instanceof Ref)) continue;
      const number = this.from(other).record(hole.id);
      this.copyRelation(
        other,
        relation,
        { place: HOLE.related, said: `#${number}` },
        { place: HOLE.relating, said: `#${record}` },
      );
      for (const filling of other.relations.named(hole.id))
        if (other.file.typeOf(filling) === FILLS) this.fill(other, filling, number);
    }
  }

  /** What stands in an opening stands in it here, too, where it is here. */
  private fill(other: BuildingSide, relation: number, hole: number): void {
    const shape = shapeOfRelation(FILLS);
    const within = shape && other.file.values(relation)[shape.related];
    const number = within instanceof Ref ? this.from(other).known(within.id) : undefined;
    if (!shape || number === undefined) return;
    this.copyRelation(
      other,
      relation,
      { place: shape.related, said: `#${number}` },
      { place: shape.relating, said: `#${hole}` },
    );
  }

  /** As what it is related to by relations of one kind is there. */
  private relate(record: number, name: string, other: BuildingSide, theirs: number): void {
    for (const { relation, type, relating } of this.source.relations.of(record))
      if (nameOfField({ of: 'relation', type, set: setOfRelation(this.source.file, type, relating) }) === name)
        if (this.rewriting.isThere(relation)) this.leave(record, relation);
    for (const membership of other.relations.of(theirs)) {
      const { type, relating } = membership;
      if (nameOfField({ of: 'relation', type, set: setOfRelation(other.file, type, relating) }) === name)
        this.join(record, other, membership);
    }
  }

  private put(number: number, { source: other, piece, key }: WantedPiece<BuildingSide>): void {
    const theirs = other.recordOf(piece);
    const statement = statementOf(other.file.said(theirs));
    if (!statement)
      throw new ReadError(`Record #${theirs} of the model cannot be taken over.`, undefined, 'unsupported');
    const values = statement.values.map((said) => withRefs(said, (id) => this.from(other).record(id)));
    values[0] = `'${this.freeIdentity(key)}'`;
    const head = statement.head.replace(/^#\d+/, `#${number}`);
    this.rewriting.add(number, written({ ...statement, head, values }));
    for (const membership of other.relations.of(theirs)) this.join(number, other, membership);
    this.putHoles(number, other, theirs);
  }

  /** Takes part in a relation to the same thing; in one of its own where there is none. */
  private join(record: number, other: BuildingSide, { relation, type, relating }: Membership): void {
    const shape = shapeOfRelation(type);
    const number = this.from(other).related(relating);
    if (!shape || number === undefined) return;
    const there = this.relations.get(`${type} ${number}`);
    if (there !== undefined && this.rewriting.isThere(there) && !shape.single) {
      const members = refsOf(this.statement(there).values[shape.related] ?? '');
      if (!members.includes(record)) this.setValue(there, shape.related, listed([...members, record]));
      return;
    }
    const said = shape.single ? `#${record}` : listed([record]);
    const made = this.copyRelation(
      other,
      relation,
      { place: shape.related, said },
      { place: shape.relating, said: `#${number}` },
    );
    this.relations.set(`${type} ${number}`, made);
  }

  private copyRelation(
    other: BuildingSide,
    relation: number,
    ...others: readonly { place: number; said: string }[]
  ): number {
    const statement = statementOf(other.file.said(relation));
    if (!statement)
      throw new ReadError(`Record #${relation} of the model cannot be taken over.`, undefined, 'unsupported');
    const number = this.rewriting.freeNumber();
    const given = new Map(others.map(({ place, said }) => [place, said]));
    const values = statement.values.map(
      (said, place) => given.get(place) ?? withRefs(said, (id) => this.from(other).record(id)),
    );
    values[0] = `'${this.freeIdentity((values[0] ?? '').trim().slice(1, -1))}'`;
    const head = statement.head.replace(/^#\d+/, `#${number}`);
    this.rewriting.add(number, written({ ...statement, head, values }));
    return number;
  }
}
