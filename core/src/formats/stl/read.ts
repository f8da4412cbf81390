/** STL: triangles, each with its own corners, in binary form or as text. Its numbers have no unit. */
import { latinOf } from '../../model/card.ts';
import type { Limits } from '../../model/limits.ts';
import { ReadError } from '../../model/problem.ts';
import type { Solid } from '../../model/solid.ts';
import { welded } from '../../mesh/weld.ts';
import { SolidBuilder } from '../shared/solid-builder.ts';
import { finite, linesOf, Numbers, programIn } from '../shared/solid-text.ts';

/** Bytes before the first triangle, of which the last four say how many there are; and of each. */
export const HEAD = 84;
export const COUNT_AT = 80;
export const TRIANGLE = 50;

interface Found {
  /** x, y and z of three corners a triangle. */
  readonly corners: Float64Array;
  readonly name: string;
  readonly notes: readonly string[];
}

/** Throws ReadError where there is no triangle. What was cut off is read as far as it goes, and said. */
export function readStl(bytes: Uint8Array, limits: Limits): Solid {
  if (bytes.length > limits.bytes)
    throw new ReadError('The model is larger than Ovrel looks into.', undefined, 'too-large');
  const { corners, name, notes } = isStlText(bytes) ? readText(bytes, limits) : readBinary(bytes, limits);
  if (corners.length === 0) throw new ReadError('There is no triangle in this model.', HEAD, 'empty');
  const builder = new SolidBuilder(limits);
  builder.notes.push(...notes);
  builder.addBodies({ kind: 'body', name: 'body' }, welded(corners));
  return builder.finish('stl', programIn(name));
}

/** Binary files may begin with “solid”, too: then their length fits the number of triangles that they say. */
export function isStlText(bytes: Uint8Array): boolean {
  if (!/^\s*solid\b/i.test(latinOf(bytes.subarray(0, 64)))) return false;
  if (bytes.length < HEAD) return true;
  return bytes.length !== HEAD + TRIANGLE * new DataView(bytes.buffer, bytes.byteOffset).getUint32(COUNT_AT, true);
}

function readBinary(bytes: Uint8Array, limits: Limits): Found {
  if (bytes.length < HEAD)
    throw new ReadError('The model ends before it says how many triangles it has.', bytes.length);
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const said = view.getUint32(COUNT_AT, true);
  const count = Math.min(said, Math.floor((bytes.length - HEAD) / TRIANGLE));
  if (3 * count > limits.points)
    throw new ReadError('The model has more triangles than Ovrel looks into.', undefined, 'too-large');
  const corners = new Float64Array(9 * count);
  for (let t = 0; t < count; t++)
    for (let k = 0; k < 9; k++)
      corners[9 * t + k] = finite(view.getFloat32(HEAD + TRIANGLE * t + 12 + 4 * k, true), HEAD + TRIANGLE * t);
  const notes = count < said ? [cutOff(count, said)] : [];
  const header = latinOf(bytes.subarray(0, 80))
    .replaceAll(/[\0\s]+/g, ' ')
    .trim();
  return { corners, name: /^[\x20-\x7e]+$/.test(header) ? header : '', notes };
}

const cutOff = (count: number, said: number): string =>
  `The model is cut off: it says ${said.toLocaleString('en')} triangles, and ${count.toLocaleString('en')} are there.`;

function readText(bytes: Uint8Array, limits: Limits): Found {
  const numbers = new Numbers(limits.points * 3);
  let name = '';
  let facet = 0;
  let isEnded = false;
  let dropped = 0;
  for (const { line, at } of linesOf(bytes)) {
    const [word = '', ...values] = line.trim().split(/\s+/);
    switch (word.toLowerCase()) {
      case 'solid':
        name ||= values.join(' ');
        isEnded = false;
        break;
      case 'vertex':
        if (values.length < 3) throw new ReadError('A corner of a triangle has no three numbers.', at);
        for (const value of values.slice(0, 3)) numbers.push(finite(Number(value), at));
        facet++;
        break;
      case 'endfacet':
        if (facet !== 3) dropped++;
        if (facet !== 3) numbers.drop(3 * facet);
        facet = 0;
        break;
      case 'endsolid':
        isEnded = true;
    }
  }
  numbers.drop(3 * facet);
  const notes = isEnded ? [] : ['The model is cut off: its end is missing.'];
  if (dropped > 0) notes.push(`${dropped.toLocaleString('en')} faces without three corners were left out.`);
  return { corners: numbers.finish(), name, notes };
}
