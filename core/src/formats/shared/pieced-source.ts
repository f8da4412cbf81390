/**
 * A model as a list of its pieces, a line each, which names the file that a piece is of and, where something of it is
 * taken from elsewhere, from where. The file is made anew after that list.
 */
import { concat } from '../../bytes/concat.ts';
import { hashText } from '../../geometry/hash.ts';
import type { At, Fields, Rename, Source, Splice } from '../../model/source.ts';
import { ListedSource, nothing } from './listed-source.ts';
import { spliced } from './splices.ts';

export interface Piece {
  /** What others call it by, without a sign before it. */
  readonly key: string;
  /** Keys of pieces that it stands on or in. */
  readonly needs: readonly string[];
  /** Where its record begins in the file. */
  readonly start: number;
  /** What it says, in spellings for comparing: keys of other pieces as `rename` has them. */
  fields(rename: (key: string) => string): Fields;
}

export interface PieceOf<S> {
  readonly source: S;
  readonly piece: number;
}

/** A piece of the file that is to be written. */
export interface WantedPiece<S> extends PieceOf<S> {
  /** Its key there. */
  readonly key: string;
  /** Fields that are as those of other pieces. */
  readonly fields: ReadonlyMap<string, PieceOf<S>>;
}

export abstract class PiecedSource extends ListedSource {
  override readonly order = 'never';
  protected readonly pieces: readonly Piece[];
  /** Files by their place in this list; this one first. */
  private readonly sources: PiecedSource[] = [];
  private readonly renames = new Map<PiecedSource, Rename>();
  private readonly byStart: ReadonlyMap<number, number>;

  protected constructor(pieces: readonly Piece[]) {
    const lines = pieces.map((piece, k) =>
      new TextEncoder().encode(lineOf({ source: 0, piece: k, key: piece.key, print: printOf(piece) })),
    );
    super(concat(lines), 'model');
    this.pieces = pieces;
    this.sources.push(this);
    let start = 0;
    pieces.forEach(({ key }, k) => {
      const end = start + (lines[k]?.length ?? 0);
      this.add('piece', start, end, [`#${key}`]);
      start = end;
    });
    this.byStart = new Map(pieces.map((piece, k) => [piece.start, k + 1]));
  }

  /** The file with these pieces, in bytes. Throws ReadError where it cannot be made. */
  protected abstract made(wanted: readonly WantedPiece<this>[]): Uint8Array;

  /** The key that a piece of another file goes by here; undefined where it is not here, and does not come. */
  protected keyHere(source: PiecedSource, key: string): string | undefined {
    return source === this ? key : this.renames.get(source)?.(`#${key}`)?.slice(1);
  }

  fields(node: number, rename?: Rename): Fields {
    const piece = this.pieces[node - 1];
    return piece?.fields((key) => rename?.(`#${key}`)?.slice(1) ?? key) ?? new Map();
  }

  override refersTo(node: number): string[] {
    return this.pieces[node - 1]?.needs.map((key) => `#${key}`) ?? [];
  }

  override nodeOf([start]: readonly [number, number], _index: number): number {
    return this.byStart.get(start) ?? -1;
  }

  changed(node: number, from: At, to: At, rename: Rename, keep: ReadonlySet<string>): Splice[] {
    const own = this.pieces[node - 1];
    if (!own) return [];
    const { place } = this.placeOf(to.source, rename);
    const was = from.source.fields(from.node);
    const is = to.source.fields(to.node, rename);
    const names = [...new Set([...was.keys(), ...is.keys()])];
    const fields = names.filter((name) => !keep.has(name) && was.get(name) !== is.get(name));
    const taken = fields.map((name) => `${encodeURIComponent(name)}=${place}:${to.node - 1}`);
    const { start, end } = this.at(node);
    const line = lineOf({ source: 0, piece: node - 1, key: own.key, print: printOf(own), taken });
    return [{ start, end, bytes: new TextEncoder().encode(line) }];
  }

  copied({ source, node }: At, rename: Rename): { readonly head: Uint8Array; readonly tail: Uint8Array } {
    const { place, from } = this.placeOf(source, rename);
    const piece = from.pieces[node - 1];
    if (!piece) return { head: nothing, tail: nothing };
    const key = rename(`#${piece.key}`)?.slice(1) ?? piece.key;
    const line = lineOf({ source: place, piece: node - 1, key, print: printOf(piece) });
    return { head: new TextEncoder().encode(line), tail: nothing };
  }

  private placeOf(source: Source, rename: Rename): { readonly place: number; readonly from: PiecedSource } {
    // Pieces of one format are not written into files of another.
    if (!(source instanceof PiecedSource) || source.format !== this.format)
      throw new Error(`a piece of ${source.format} cannot be written into ${this.format}`);
    if (!this.sources.includes(source)) this.sources.push(source);
    this.renames.set(source, rename);
    return { place: this.sources.indexOf(source), from: source };
  }

  abstract override free(key: string, taken: (key: string) => boolean): string;

  written(splices: readonly Splice[]): Uint8Array {
    const lines = new TextDecoder().decode(spliced(this.bytes, splices)).split('\n').slice(0, -1);
    return this.made(lines.map((line) => this.wanted(line)));
  }

  private wanted(line: string): WantedPiece<this> {
    const [source = '0', piece = '0', key = '', , ...taken] = line.split(' ');
    const at = (place: string, k: string): PieceOf<this> => ({
      source: this.sources[Number(place)] as this,
      piece: Number(k),
    });
    const fields = taken.map((said): [string, PieceOf<this>] => {
      const [name = '', where = ''] = said.split('=');
      const [place = '0', k = '0'] = where.split(':');
      return [decodeURIComponent(name), at(place, k)];
    });
    return { ...at(source, piece), key: decodeURIComponent(key), fields: new Map(fields) };
  }
}

interface Line {
  readonly source: number;
  readonly piece: number;
  readonly key: string;
  readonly print: string;
  readonly taken?: readonly string[];
}

/** What a piece says stands in it, too, so that only lines of equal pieces are equal. */
const lineOf = ({ source, piece, key, print, taken = [] }: Line): string =>
  `${[source, piece, encodeURIComponent(key), print, ...taken].join(' ')}\n`;

const printOf = (piece: Piece): string =>
  hashText([...piece.fields((key) => key)].map(([name, value]) => `${name}=${value}`).join('\n'));

/** A value that is worked out when it is asked for, once. */
export function kept<T>(made: () => T): () => T {
  let known: { readonly value: T } | undefined;
  return () => {
    known ??= { value: made() };
    return known.value;
  };
}
