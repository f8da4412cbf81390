/** Groups as bytes, in the form and the encoding of the file that they are written into. */
import { concat } from '../../bytes/concat.ts';
import { sizeOfValue, type Groups } from './groups.ts';

/** Names in encodings that can only be read here: their characters go as escapes. */
const ASCII = /[^\x00-\x7f]/g;

export class Emitter {
  private readonly groups: Groups;
  private readonly lineEnd: string;
  private readonly utf8: boolean;
  private readonly wide: boolean;

  constructor(groups: Groups) {
    this.groups = groups;
    const { bytes } = groups;
    const feed = bytes.indexOf(10);
    const crlf = feed > 0 && bytes[feed - 1] === 13;
    this.lineEnd = crlf || feed < 0 ? '\r\n' : '\n';
    this.utf8 = groups.encodingName === 'utf-8';
    this.wide = bytes[23] === 0;
  }

  /** Group `i` of another file, or of this one, with another value where one is given. */
  group(from: Groups, i: number, value?: string): Uint8Array {
    const code = from.codes[i] as number;
    const isSameForm = from.binary === this.groups.binary && from.encodingName === this.groups.encodingName;
    if (value === undefined && isSameForm) return this.own(from, i);
    return this.groups.binary ? this.binary(from, i, code, value) : this.text(code, value ?? textIn(from, i));
  }

  private own(from: Groups, i: number): Uint8Array {
    if (this.groups.binary) return from.bytes.subarray(from.at[i], from.endOf(i));
    // Lines may end otherwise there.
    const head = from.bytes.subarray(from.at[i], from.from[i]);
    const code = new TextDecoder('latin1').decode(head).replace(/[\r\n]+$/, '');
    const value = from.bytes.subarray(from.from[i], from.to[i]);
    const before = new TextEncoder().encode(`${code}${this.lineEnd}`);
    return concat([before, value, new TextEncoder().encode(this.lineEnd)]);
  }

  private text(code: number, value: string): Uint8Array {
    return new TextEncoder().encode(`${String(code).padStart(3)}${this.lineEnd}${this.escaped(value)}${this.lineEnd}`);
  }

  private escaped(value: string): string {
    if (this.utf8) return value;
    return value.replace(ASCII, (c) => `\\U+${c.charCodeAt(0).toString(16).toUpperCase().padStart(4, '0')}`);
  }

  private binary(from: Groups, i: number, code: number, value: string | undefined): Uint8Array {
    const both = [code & 255, code >> 8];
    const narrow = code < 255 ? [code] : [255, ...both];
    const head = this.wide ? both : narrow;
    const size = sizeOfValue(code);
    if (size === 'text') {
      const text = new TextEncoder().encode(this.escaped(value ?? from.text(i)));
      return concat([new Uint8Array(head), text, new Uint8Array(1)]);
    }
    if (size === 'chunk') return concat([new Uint8Array(head), chunkOf(from, i)]);
    const number = value === undefined ? from.number(i) : Number(value);
    const out = new Uint8Array(size);
    const view = new DataView(out.buffer);
    if (size === 8 && code >= 160 && code < 170) view.setBigInt64(0, BigInt(Math.round(number)), true);
    else if (size === 8) view.setFloat64(0, number, true);
    else if (size === 4) view.setInt32(0, number, true);
    else if (size === 2) view.setInt16(0, number, true);
    else view.setUint8(0, number);
    return concat([new Uint8Array(head), out]);
  }
}

/** The value as it stands in a text file; binary data goes as hexadecimal digits. */
function textIn(from: Groups, i: number): string {
  if (!from.binary || sizeOfValue(from.codes[i] as number) !== 'chunk') return from.text(i);
  const raw = from.bytes.subarray((from.from[i] as number) + 1, from.to[i]);
  return Array.from(raw, (byte) => byte.toString(16).toUpperCase().padStart(2, '0')).join('');
}

/** Binary data: a count and as many bytes; in text files it stands in hexadecimal digits. */
function chunkOf(from: Groups, i: number): Uint8Array {
  const raw = from.bytes.subarray(from.from[i], from.to[i]);
  if (from.binary) return raw;
  const digits = new TextDecoder('latin1').decode(raw).trim();
  const bytes = Uint8Array.from(digits.match(/../g) ?? [], (pair) => parseInt(pair, 16));
  return concat([new Uint8Array([bytes.length]), bytes]);
}
