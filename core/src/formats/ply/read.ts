/** PLY: a head that says which numbers follow, then points and faces, as text or in either order of bytes. */
import { latinOf } from '../../model/card.ts';
import type { Limits } from '../../model/limits.ts';
import { ReadError } from '../../model/problem.ts';
import type { Solid } from '../../model/solid.ts';
import { withOwnPoints } from '../../mesh/own-points.ts';
import { weldedMesh } from '../../mesh/weld.ts';
import { SolidBuilder } from '../shared/solid-builder.ts';
import { finite, programIn } from '../shared/solid-text.ts';

type Read = (view: DataView, at: number, little: boolean) => number;

const types: Readonly<Record<string, { readonly size: number; readonly read: Read }>> = {
  char: { size: 1, read: (view, at) => view.getInt8(at) },
  uchar: { size: 1, read: (view, at) => view.getUint8(at) },
  short: { size: 2, read: (view, at, little) => view.getInt16(at, little) },
  ushort: { size: 2, read: (view, at, little) => view.getUint16(at, little) },
  int: { size: 4, read: (view, at, little) => view.getInt32(at, little) },
  uint: { size: 4, read: (view, at, little) => view.getUint32(at, little) },
  float: { size: 4, read: (view, at, little) => view.getFloat32(at, little) },
  double: { size: 8, read: (view, at, little) => view.getFloat64(at, little) },
};
const names: Readonly<Record<string, string>> = {
  int8: 'char',
  uint8: 'uchar',
  int16: 'short',
  uint16: 'ushort',
  int32: 'int',
  uint32: 'uint',
  float32: 'float',
  float64: 'double',
};
const typeOf = (name: string | undefined, at: number): string => {
  const own = names[name ?? ''] ?? name ?? '';
  if (!Object.hasOwn(types, own))
    throw new ReadError(`The head names a type of numbers that there is not: “${name}”.`, at);
  return own;
};

interface Property {
  readonly name: string;
  readonly type: string;
  /** Type of the count, of lists. */
  readonly counted?: string;
}

interface Element {
  readonly name: string;
  readonly count: number;
  readonly properties: Property[];
}

interface Head {
  readonly manner: string;
  readonly elements: readonly Element[];
  readonly program: string;
  /** Bytes of the head. */
  readonly end: number;
}

const LONGEST_HEAD = 65_536;
/** Characters of a number. */
const LONGEST_NUMBER = 64;
/** Corners of one face. */
const MOST_CORNERS = 10_000;

/** Throws ReadError where there is no face, or the file ends before what its head says. */
export function readPly(bytes: Uint8Array, limits: Limits): Solid {
  if (bytes.length > limits.bytes)
    throw new ReadError('The model is larger than Ovrel looks into.', undefined, 'too-large');
  const head = headOf(bytes);
  const next =
    head.manner === 'ascii' ? inText(bytes, head.end) : inBytes(bytes, head.end, head.manner.includes('little'));
  const points: number[] = [];
  const triangles: number[] = [];
  for (const element of head.elements) readElement(element, next, points, triangles, limits);
  if (triangles.length === 0)
    throw new ReadError('There is no face in this model, only points.', head.end, 'unsupported');
  const builder = new SolidBuilder(limits);
  builder.addBodies({ kind: 'body', name: 'body' }, weldedMesh(withOwnPoints(Float64Array.from(points), triangles)));
  return builder.finish('ply', programIn(head.program));
}

function headOf(bytes: Uint8Array): Head {
  const text = latinOf(bytes.subarray(0, LONGEST_HEAD));
  const found = /\r?\nend_header[^\S\n]*\r?\n/.exec(text);
  if (!found) throw new ReadError('The head of the model has no end.', bytes.length);
  const elements: Element[] = [];
  let manner = '';
  let program = '';
  for (const line of text.slice(0, found.index).split(/\r?\n/)) {
    const [word = '', ...rest] = line.trim().split(/\s+/);
    const at = text.indexOf(line);
    if (word === 'format') manner = rest[0] ?? '';
    if (word === 'comment') program ||= rest.join(' ').slice(0, 80);
    if (word === 'element') elements.push({ name: rest[0] ?? '', count: Number(rest[1]), properties: [] });
    if (word === 'property') elements.at(-1)?.properties.push(propertyOf(rest, at));
  }
  for (const { name, count } of elements)
    if (!(Number.isInteger(count) && count >= 0))
      throw new ReadError(`The head does not say how many of “${name}” there are.`, 0);
  return { manner, elements, program, end: found.index + found[0].length };
}

const propertyOf = (words: readonly string[], at: number): Property =>
  words[0] === 'list'
    ? { name: words[3] ?? '', counted: typeOf(words[1], at), type: typeOf(words[2], at) }
    : { name: words[1] ?? '', type: typeOf(words[0], at) };

type Next = (type: string) => number;

function readElement(element: Element, next: Next, points: number[], triangles: number[], limits: Limits): void {
  const places = ['x', 'y', 'z'].map((name) => element.properties.findIndex((property) => property.name === name));
  if (element.name === 'vertex' && places.includes(-1)) throw new ReadError('Its points have no x, y and z.');
  for (let n = 0; n < element.count; n++) {
    const values: number[] = [];
    for (const { name, type, counted } of element.properties) {
      if (counted === undefined) {
        values.push(next(type));
        continue;
      }
      const list = listOf(next, counted, type);
      values.push(list.length);
      if (element.name === 'face' && /^vertex_(?:index|indices)$/.test(name))
        addFace(list, points.length / 3, triangles, limits);
    }
    if (element.name === 'vertex') for (const place of places) points.push(finite(values[place] as number, undefined));
    if (points.length > 3 * limits.points) throw tooMany();
  }
}

function listOf(next: Next, counted: string, type: string): number[] {
  const count = next(counted);
  if (!(count >= 0 && count <= MOST_CORNERS)) throw new ReadError(`A face has ${count} corners.`);
  return Array.from({ length: count }, () => next(type));
}

function addFace(corners: readonly number[], count: number, triangles: number[], limits: Limits): void {
  for (const corner of corners)
    if (!(Number.isInteger(corner) && corner >= 0 && corner < count))
      throw new ReadError(`A face names the point ${corner}, which is not there.`);
  for (let k = 2; k < corners.length; k++)
    triangles.push(corners[0] as number, corners[k - 1] as number, corners[k] as number);
  if (triangles.length > limits.points) throw tooMany();
}

const tooMany = (): ReadError =>
  new ReadError('The model has more triangles than Ovrel looks into.', undefined, 'too-large');

const cutOff = (at: number): ReadError => new ReadError('The model is cut off: it ends before what its head says.', at);

function inBytes(bytes: Uint8Array, start: number, little: boolean): Next {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  let at = start;
  return (type) => {
    const known = types[type] as { size: number; read: Read };
    if (at + known.size > bytes.length) throw cutOff(at);
    const value = known.read(view, at, little);
    at += known.size;
    return value;
  };
}

function inText(bytes: Uint8Array, start: number): Next {
  let at = start;
  return () => {
    while (at < bytes.length && (bytes[at] as number) <= 32) at++;
    const begin = at;
    while (at < bytes.length && (bytes[at] as number) > 32) at++;
    if (begin === at) throw cutOff(at);
    const value = Number(String.fromCodePoint(...bytes.subarray(begin, Math.min(at, begin + LONGEST_NUMBER))));
    if (Number.isNaN(value)) throw new ReadError('Where a number is to be, there is none.', begin);
    return value;
  };
}
