/** A glTF file as its description and its numbers, and the two as a file again (glTF 2.0, 4.4). */
import { concat } from '../../bytes/concat.ts';
import { ReadError } from '../../model/problem.ts';
import type { Json } from './links.ts';
import { HEAD, JSON_CHUNK, MAGIC } from './read.ts';

const VERSION = 2;
const BINARY_CHUNK = 0x004e4942;
const CHUNK_HEAD = 8;
/** Bytes that chunks are filled up to. */
const STEP = 4;
const [BLANK, ZERO] = [0x20, 0];
const DATA = /^data:[^,]*;base64,/;

export interface Described {
  [list: string]: Json | undefined;
}

export interface Container {
  readonly isBinary: boolean;
  readonly description: Described;
  /** The numbers of a buffer; empty where they stand elsewhere. */
  readonly buffer: (place: number) => Uint8Array;
}

/** Throws ReadError where the description cannot be read. */
export function openContainer(bytes: Uint8Array): Container {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const isBinary = bytes.length >= HEAD && view.getUint32(0, true) === MAGIC;
  const length = isBinary ? view.getUint32(12, true) : bytes.length;
  const text = isBinary ? bytes.subarray(HEAD, HEAD + length) : bytes;
  const description = described(text);
  const own = isBinary ? bytes.subarray(HEAD + length + CHUNK_HEAD) : new Uint8Array(0);
  return { isBinary, description, buffer: (place) => numbersOf(description, place, own) };
}

function described(text: Uint8Array): Described {
  try {
    return JSON.parse(new TextDecoder().decode(text)) as Described;
  } catch {
    throw new ReadError('The model is no glTF that can be read: its description is broken.', 0);
  }
}

function numbersOf(description: Described, place: number, own: Uint8Array): Uint8Array {
  const buffer = (description['buffers'] as readonly { readonly uri?: string; readonly byteLength?: number }[])[place];
  if (buffer?.uri === undefined) return own.subarray(0, buffer?.byteLength ?? 0);
  if (!DATA.test(buffer.uri)) return new Uint8Array(0);
  return Uint8Array.from(atob(buffer.uri.replace(DATA, '')), (letter) => letter.charCodeAt(0));
}

/** `added`: numbers that stand behind those of the file, in a buffer of their own where it is no binary one. */
export function madeContainer({ isBinary, description, buffer }: Container, added: Uint8Array): Uint8Array {
  if (!isBinary) return new TextEncoder().encode(JSON.stringify(description, null, 2));
  const text = filled(new TextEncoder().encode(JSON.stringify(description)), BLANK);
  const numbers = filled(concat([filled(buffer(0), ZERO), added]), ZERO);
  const head = (values: readonly number[]): Uint8Array => new Uint8Array(Uint32Array.from(values).buffer);
  const chunks = [head([text.length, JSON_CHUNK]), text];
  if (numbers.length > 0) chunks.push(head([numbers.length, BINARY_CHUNK]), numbers);
  const length = chunks.reduce((sum, chunk) => sum + chunk.length, 12);
  return concat([head([MAGIC, VERSION, length]), ...chunks]);
}

export const filledLength = (length: number): number => Math.ceil(length / STEP) * STEP;

function filled(bytes: Uint8Array, by: number): Uint8Array {
  const out = new Uint8Array(filledLength(bytes.length)).fill(by);
  out.set(bytes);
  return out;
}
