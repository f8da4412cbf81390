/** Faces as they are written, by the groups or bodies that they are of. Points that are used no more stay: faces count them. */
import { strToU8 } from 'fflate';
import { concat } from '../../bytes/concat.ts';
import type { Limits } from '../../model/limits.ts';
import { ReadError } from '../../model/problem.ts';
import type { Source } from '../../model/source.ts';
import { HeapSource, partsByCorner } from '../shared/heap-source.ts';
import type { WantedPiece } from '../shared/pieced-source.ts';
import { linesOf } from '../shared/solid-text.ts';
import { readObj } from './read.ts';

/** Lists that corners of faces count in: places, places on a texture, normals. */
const LISTS = ['v', 'vt', 'vn'] as const;
type Lists = Readonly<Record<(typeof LISTS)[number], string[]>>;

/** A corner of a face: a place in each list, from 0; −1 where it has none. */
type Corner = readonly number[];

interface Face {
  readonly name: string;
  readonly material: string;
  readonly corners: readonly Corner[];
  readonly start: number;
  readonly end: number;
  readonly part: number;
}

/** Throws ReadError where there is no face. */
export function sourceOfObj(bytes: Uint8Array, limits: Limits): Source {
  return new ObjSource(bytes, readObj(bytes, limits));
}

class ObjSource extends HeapSource {
  readonly format = 'obj';
  private readonly file: Uint8Array;
  private readonly lists: Lists = { v: [], vt: [], vn: [] };
  private readonly faces: Face[] = [];

  constructor(file: Uint8Array, solid: ReturnType<typeof readObj>) {
    super(solid, (part) => ({
      name: String(solid.parts[part]?.props['name'] ?? ''),
      material: solid.parts[part]?.category ?? '',
    }));
    this.file = file;
    this.findFaces();
  }

  private findFaces(): void {
    const partAt = partsByCorner(this.solid);
    const groups = new Map(this.solid.parts.map(({ key, kind }, part) => [kind === 'group' ? (key ?? '') : '', part]));
    let [name, material] = ['', ''];
    for (const { line, at } of linesOf(this.file)) {
      const [word = '', ...values] = line.trim().split(/\s+/);
      const list = LISTS.find((one) => one === word);
      if (list) this.lists[list].push(values.join(' '));
      else if (word === 'o' || word === 'g') name = values.join(' ');
      else if (word === 'usemtl') material = values.join(' ');
      else if (word === 'f') {
        const corners = values.map((said) => this.corner(said));
        const [x = 0, y = 0, z = 0] = (this.lists.v[corners[0]?.[0] ?? -1] ?? '').split(' ').map(Number);
        const part = groups.get(`${name} ${material}`) ?? partAt(x, y, z);
        this.faces.push({ name, material, corners, start: at, end: at + line.length, part });
      }
    }
  }

  private corner(said: string): Corner {
    return said.split('/').map((number, k) => {
      const index = Number.parseInt(number, 10);
      const length = this.lists[LISTS[k] ?? 'v'].length;
      if (Number.isNaN(index)) return -1;
      return index < 0 ? length + index : index - 1;
    });
  }

  protected made(wanted: readonly WantedPiece<this>[]): Uint8Array {
    const isOwn = (piece: WantedPiece<this>): boolean => piece.source === this && piece.fields.size === 0;
    const kept = new Set(wanted.filter(isOwn).map(({ piece }) => piece));
    const added: Lists = { v: [], vt: [], vn: [] };
    const coming = wanted.filter((piece) => !isOwn(piece)).flatMap((piece) => this.facesOf(piece, added));
    if (kept.size === 0 && coming.length === 0) throw new ReadError('No face would be left, so nothing was changed.');
    const left: Uint8Array[] = [];
    let from = 0;
    for (const { part, start, end } of this.faces) {
      if (kept.has(part)) continue;
      left.push(this.file.subarray(from, start));
      from = end;
    }
    left.push(this.file.subarray(from));
    const lines = [...LISTS.flatMap((list) => added[list].map((values) => `${list} ${values}`)), ...coming];
    const isClosed = this.file.at(-1) === 10;
    return concat([
      ...left,
      strToU8(
        lines
          .map((line) => `${line}\n`)
          .join('')
          .replace(/^(?=.)/, isClosed ? '' : '\n'),
        true,
      ),
    ]);
  }

  /** Lines of a piece that is another one's, or partly so, with its points put to the end of ours. */
  private facesOf({ source, piece, fields }: WantedPiece<this>, added: Lists): string[] {
    const at = (field: string): { source: ObjSource; piece: number } => fields.get(field) ?? { source, piece };
    const said = (field: 'name' | 'material'): string => {
      const { source: other, piece: part } = at(field);
      return other.faces.find((face) => face.part === part)?.[field] ?? '';
    };
    const { source: other, piece: part } = at('surface');
    const numbers = LISTS.map(() => new Map<number, number>());
    const numberOf = (index: number, k: number): string => {
      if (index < 0) return '';
      if (other === this) return String(index + 1);
      const list = LISTS[k] ?? 'v';
      const known = numbers[k]?.get(index);
      if (known !== undefined) return String(known);
      added[list].push(other.lists[list][index] ?? '');
      const number = this.lists[list].length + added[list].length;
      numbers[k]?.set(index, number);
      return String(number);
    };
    const faces = other.faces.filter((face) => face.part === part);
    const [name, material] = [said('name'), said('material')];
    return [
      ...(name === '' ? ['g'] : [`g ${name}`]),
      ...(material === '' ? [] : [`usemtl ${material}`]),
      ...faces.map(({ corners }) => `f ${corners.map((corner) => corner.map(numberOf).join('/')).join(' ')}`),
    ];
  }
}
