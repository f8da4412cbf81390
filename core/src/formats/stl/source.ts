/** Triangles as they are written, by the bodies that they are of. */
import { strFromU8, strToU8 } from 'fflate';
import { concat } from '../../bytes/concat.ts';
import type { Limits } from '../../model/limits.ts';
import { ReadError } from '../../model/problem.ts';
import type { Source } from '../../model/source.ts';
import { HeapSource, partsByCorner } from '../shared/heap-source.ts';
import type { WantedPiece } from '../shared/pieced-source.ts';
import { COUNT_AT, HEAD, isStlText, readStl, TRIANGLE } from './read.ts';

const NUMBERS = 12;

/** Throws ReadError where there is no triangle, or the file is cut off. */
export function sourceOfStl(bytes: Uint8Array, limits: Limits): Source {
  const solid = readStl(bytes, limits);
  const [note] = solid.notes;
  if (note !== undefined) throw new ReadError(`${note} What is not whole cannot be written.`);
  const facets = isStlText(bytes) ? facetsInText(bytes) : facetsInBinary(bytes);
  const partAt = partsByCorner(solid);
  return new StlSource(
    bytes,
    solid,
    facets,
    facets.map(({ numbers }) => partAt(...cornerOf(numbers))),
  );
}

/** A triangle: its normal and its corners, and the bytes that it stands in. */
interface Facet {
  readonly numbers: readonly number[];
  readonly bytes: Uint8Array;
}

const cornerOf = (numbers: readonly number[]): [number, number, number] => [
  numbers[3] ?? 0,
  numbers[4] ?? 0,
  numbers[5] ?? 0,
];

class StlSource extends HeapSource {
  readonly format = 'stl';
  private readonly file: Uint8Array;
  private readonly facets: readonly Facet[];
  private readonly partOfFacet: readonly number[];
  private readonly isText: boolean;

  constructor(file: Uint8Array, solid: ReturnType<typeof readStl>, facets: readonly Facet[], partOfFacet: number[]) {
    super(solid, () => ({}));
    this.file = file;
    this.facets = facets;
    this.partOfFacet = partOfFacet;
    this.isText = isStlText(file);
  }

  protected made(wanted: readonly WantedPiece<this>[]): Uint8Array {
    const seen = wanted.map(({ source, piece, fields }) => fields.get('surface') ?? { source, piece });
    const kept = new Set(seen.filter(({ source }) => source === this).map(({ piece }) => piece));
    const own = this.facets.filter((_, k) => kept.has(this.partOfFacet[k] ?? -1));
    const coming = seen.filter(({ source }) => source !== this);
    const all = [...own, ...coming.flatMap(({ source, piece }) => source.facetsOf(piece, this.isText))];
    if (all.length === 0) throw new ReadError('No triangle would be left, so nothing was changed.');
    return this.isText ? this.asText(all) : this.asBinary(all);
  }

  private facetsOf(part: number, isText: boolean): Facet[] {
    const own = this.facets.filter((_, k) => this.partOfFacet[k] === part);
    if (isText === this.isText) return own;
    return own.map(({ numbers }) => ({ numbers, bytes: isText ? textOf(numbers) : binaryOf(numbers) }));
  }

  private asBinary(facets: readonly Facet[]): Uint8Array {
    const made = concat([this.file.subarray(0, HEAD), ...facets.map(({ bytes }) => bytes)]);
    new DataView(made.buffer).setUint32(COUNT_AT, facets.length, true);
    return made;
  }

  /** All in one solid, under the name of the first. */
  private asText(facets: readonly Facet[]): Uint8Array {
    const name = /^\s*solid[^\r\n]*/i.exec(strFromU8(this.file.subarray(0, 400), true))?.[0] ?? 'solid';
    const end = name.trim().replace(/^solid/i, 'endsolid');
    return concat([strToU8(`${name}\n`, true), ...facets.map(({ bytes }) => bytes), strToU8(`${end}\n`, true)]);
  }
}

function facetsInBinary(bytes: Uint8Array): Facet[] {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  return Array.from({ length: view.getUint32(COUNT_AT, true) }, (_, t) => {
    const at = HEAD + t * TRIANGLE;
    const numbers = Array.from({ length: NUMBERS }, (__, k) => view.getFloat32(at + 4 * k, true));
    return { numbers, bytes: bytes.subarray(at, at + TRIANGLE) };
  });
}

function facetsInText(bytes: Uint8Array): Facet[] {
  const text = strFromU8(bytes, true);
  return [...text.matchAll(/[ \t]*facet\s[\s\S]*?endfacet[^\n]*\n?/gi)].map((found) => ({
    numbers: [...found[0].matchAll(/[-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?/gi)].map(([said]) => Number(said)),
    bytes: bytes.subarray(found.index, found.index + found[0].length),
  }));
}

function binaryOf(numbers: readonly number[]): Uint8Array {
  const view = new DataView(new ArrayBuffer(TRIANGLE));
  numbers.slice(0, NUMBERS).forEach((value, k) => view.setFloat32(4 * k, value, true));
  return new Uint8Array(view.buffer);
}

function textOf(numbers: readonly number[]): Uint8Array {
  const at = (k: number): string => numbers.slice(3 * k, 3 * k + 3).join(' ');
  const corners = [1, 2, 3].map((k) => `    vertex ${at(k)}\n`).join('');
  return strToU8(`facet normal ${at(0)}\n  outer loop\n${corners}  endloop\nendfacet\n`);
}
