/**
 * The lossless base of a DXF file: its groups (code and value) with their places in the bytes. ASCII and binary.
 * Follows the published DXF reference, "DXF format" and "Binary DXF files".
 */
import type { Limits } from '../../model/limits.ts';
import { ReadError } from '../../model/problem.ts';

/** Where a file stops making sense. */
export interface Damage {
  readonly offset: number;
  readonly sentence: string;
}

const BINARY_HEAD = 22;

export const isBinary = (bytes: Uint8Array): boolean => {
  if (bytes.length < BINARY_HEAD) return false;
  const head = String.fromCharCode(...bytes.subarray(0, BINARY_HEAD));
  return /^.{8}Binary DXF\r\n\x1a\0$/s.test(head);
};

/** How a value of binary DXF is stored, by the range of its group code ("Group code value types"). */
export function sizeOfValue(code: number): number | 'text' | 'chunk' {
  if (
    code < 10 ||
    (code >= 100 && code < 110) ||
    (code >= 300 && code < 310) ||
    (code >= 320 && code < 370) ||
    (code >= 390 && code < 400) ||
    (code >= 410 && code < 420) ||
    (code >= 430 && code < 440) ||
    (code >= 470 && code < 482) ||
    (code >= 999 && code < 1004) ||
    (code >= 1005 && code < 1010)
  )
    return 'text';
  if ((code >= 310 && code < 320) || code === 1004) return 'chunk';
  if (
    code < 60 ||
    (code >= 110 && code < 150) ||
    (code >= 210 && code < 240) ||
    (code >= 460 && code < 470) ||
    (code >= 1010 && code < 1060)
  )
    return 8;
  if (
    (code >= 60 && code < 80) ||
    (code >= 170 && code < 180) ||
    (code >= 270 && code < 290) ||
    (code >= 370 && code < 390) ||
    (code >= 400 && code < 410) ||
    (code >= 1060 && code < 1071)
  )
    return 2;
  if (code >= 160 && code < 170) return 8;
  if (code >= 290 && code < 300) return 1;
  return 4;
}

/** Where a value ends: a text at its zero, a chunk after as many bytes as its first one says. */
function endOfValue(bytes: Uint8Array, at: number, size: ReturnType<typeof sizeOfValue>): number {
  if (size === 'text') return bytes.indexOf(0, at);
  return size === 'chunk' ? at + 1 + (bytes[at] ?? 0) : at + size;
}

/**
 * Groups in flat arrays: group `i` has code `codes[i]`, begins at byte `at[i]`, and its value stands in bytes
 * `from[i]` to `to[i]`.
 */
export class Groups {
  count = 0;
  codes = new Int16Array(1024);
  at = new Uint32Array(1024);
  from = new Uint32Array(1024);
  to = new Uint32Array(1024);
  damages = 0;
  damage: Damage | undefined;
  /** Texts that were not in the encoding that the file names, and were read as western European instead. */
  misread = 0;
  private encoding = 'windows-1252';
  private decoder = new TextDecoder('windows-1252');
  readonly bytes: Uint8Array;
  readonly binary: boolean;
  private readonly view: DataView;
  private readonly most: number;

  constructor(bytes: Uint8Array, limits: Limits) {
    this.bytes = bytes;
    this.view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
    this.binary = isBinary(bytes);
    this.most = limits.elements * 40;
    this.grow(Math.max(64, Math.ceil(bytes.length / 14)));
    if (this.binary) this.cutBinary();
    else this.cutText();
  }

  /** End of group `i` in the file: where the next one begins. */
  endOf(i: number): number {
    return i + 1 < this.count ? (this.at[i + 1] as number) : this.bytes.length;
  }

  /** From now on texts are decoded with this label of an encoding. */
  decodeWith(label: string): void {
    this.encoding = label;
    this.decoder = new TextDecoder(label, { fatal: label === 'utf-8' });
  }

  /** The value as text, decoded with the file's code page. */
  text(i: number): string {
    if (this.binary && sizeOfValue(this.codes[i] as number) !== 'text') return String(this.number(i));
    const value = this.bytes.subarray(this.from[i], this.to[i]);
    try {
      return this.decoder.decode(value);
    } catch {
      this.misread++;
      return new TextDecoder('windows-1252').decode(value);
    }
  }

  get encodingName(): string {
    return this.encoding;
  }

  /** The value as a short ASCII word in capitals: names of records. */
  word(i: number): string {
    let out = '';
    const from = this.from[i] as number;
    const to = Math.min(this.to[i] as number, from + 64);
    for (let k = from; k < to; k++) {
      const c = this.bytes[k] as number;
      if (c > 32) out += String.fromCharCode(c >= 97 && c <= 122 ? c - 32 : c);
    }
    return out;
  }

  /** The value as a number; NaN where it is none. */
  number(i: number): number {
    if (!this.binary) return numberIn(this.bytes, this.from[i] as number, this.to[i] as number);
    const { view } = this;
    const from = this.from[i] as number;
    switch (sizeOfValue(this.codes[i] as number)) {
      case 8:
        return (this.codes[i] as number) >= 160 && (this.codes[i] as number) < 170
          ? Number(view.getBigInt64(from, true))
          : view.getFloat64(from, true);
      case 4:
        return view.getInt32(from, true);
      case 2:
        return view.getInt16(from, true);
      case 1:
        return view.getUint8(from);
      default:
        return numberIn(this.bytes, from, this.to[i] as number);
    }
  }

  private grow(capacity: number): void {
    const larger = <T extends Int16Array | Uint32Array>(old: T, fresh: T): T => {
      fresh.set(old.subarray(0, this.count));
      return fresh;
    };
    this.codes = larger(this.codes, new Int16Array(capacity));
    this.at = larger(this.at, new Uint32Array(capacity));
    this.from = larger(this.from, new Uint32Array(capacity));
    this.to = larger(this.to, new Uint32Array(capacity));
  }

  private push(code: number, at: number, from: number, to: number): void {
    if (this.count === this.codes.length) {
      if (this.count >= this.most)
        throw new ReadError(
          `The drawing has more than ${this.most.toLocaleString('en')} groups, which is more than Ovrel reads part by part.`,
          at,
        );
      this.grow(Math.ceil(this.count * 1.5));
    }
    this.codes[this.count] = code;
    this.at[this.count] = at;
    this.from[this.count] = from;
    this.to[this.count++] = to;
  }

  private hurt(offset: number, sentence: string): void {
    this.damages++;
    this.damage ??= { offset, sentence };
  }

  private cutText(): void {
    const { bytes } = this;
    const n = bytes.length;
    let at = bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf ? 3 : 0;
    const lineEnd = (k: number): number => {
      while (k < n && bytes[k] !== 10 && bytes[k] !== 13) k++;
      return k;
    };
    const after = (k: number): number => (bytes[k] === 13 && bytes[k + 1] === 10 ? k + 2 : k + 1);
    while (at < n) {
      const start = at;
      const codeEnd = lineEnd(at);
      const code = codeIn(bytes, at, codeEnd);
      if (code === undefined) {
        // An empty line here is harmless; anything else is damage, after which the next record is looked for.
        if (!blank(bytes, start, codeEnd)) {
          this.hurt(start, `“${shown(bytes, start, codeEnd)}” stands where a group code should be`);
          at = this.nextRecord(after(codeEnd), lineEnd, after);
        } else at = after(codeEnd);
        continue;
      }
      if (codeEnd >= n) {
        this.hurt(start, 'the file ends after a group code, before its value');
        return;
      }
      const from = after(codeEnd);
      const to = lineEnd(from);
      this.push(code, start, from, to);
      at = after(to);
    }
  }

  /** Offset of the next line "0" that is followed by the name of a record; the end of the file if there is none. */
  private nextRecord(from: number, lineEnd: (k: number) => number, after: (k: number) => number): number {
    const { bytes } = this;
    const n = bytes.length;
    for (let at = from; at < n;) {
      const end = lineEnd(at);
      if (codeIn(bytes, at, end) === 0 && end < n) {
        const word = shown(bytes, after(end), lineEnd(after(end)));
        if (/^[A-Z][A-Z0-9_]{2,}$/.test(word)) return at;
      }
      at = after(end);
    }
    return n;
  }

  /**
   * Where the next record begins in damaged binary data: a group code 0 and a name in capitals; the end if there is
   * none.
   */
  private nextBinaryRecord(from: number, wide: boolean): number {
    const { bytes } = this;
    const n = bytes.length;
    const head = wide ? 2 : 1;
    for (let at = bytes.indexOf(0, from); at >= 0 && at + head < n; at = bytes.indexOf(0, at + 1)) {
      if (wide && bytes[at + 1] !== 0) continue;
      const to = bytes.indexOf(0, at + head);
      if (to > at + head + 2 && isWord(bytes, at + head, to)) return at;
    }
    return n;
  }

  private cutBinary(): void {
    const { bytes, view } = this;
    const n = bytes.length;
    // Files before R13 write a group code as one byte, with 255 before codes that need two.
    const wide = bytes[BINARY_HEAD + 1] === 0;
    for (let at = BINARY_HEAD; at < n;) {
      const start = at;
      let code = bytes[at] as number;
      if (wide || code === 255) {
        if (!wide) at++;
        if (at + 2 > n) return this.hurt(start, 'the file ends in the middle of a group code');
        code = view.getInt16(at, true);
        at += 2;
      } else at++;
      if (code < 0 || code > 1071) {
        this.hurt(start, `${code} stands where a group code should be`);
        at = this.nextBinaryRecord(start + 1, wide);
        continue;
      }
      const size = sizeOfValue(code);
      const end = endOfValue(bytes, at, size);
      const to = end < 0 ? n + 1 : end;
      if (to > n || (code === 0 && !printable(bytes, at, to))) {
        this.hurt(
          start,
          to > n
            ? 'the file ends in the middle of a value'
            : 'something else stands where the name of a record should be',
        );
        at = this.nextBinaryRecord(start + 1, wide);
        continue;
      }
      this.push(code, start, at, to);
      at = size === 'text' ? to + 1 : to;
    }
  }
}

/** A short run of visible characters. */
function printable(bytes: Uint8Array, from: number, to: number): boolean {
  if (to <= from || to - from > 120) return false;
  for (let k = from; k < to; k++) if ((bytes[k] as number) < 32 || (bytes[k] as number) > 126) return false;
  return true;
}

/** Capitals, digits and underscores: the name of a record. */
function isWord(bytes: Uint8Array, from: number, to: number): boolean {
  if (to <= from || to - from > 40) return false;
  for (let k = from; k < to; k++) {
    const c = bytes[k] as number;
    if (!((c >= 65 && c <= 90) || (c >= 48 && c <= 57) || c === 95)) return false;
  }
  return true;
}

const blank = (bytes: Uint8Array, from: number, to: number): boolean => {
  for (let k = from; k < to; k++) if ((bytes[k] as number) > 32) return false;
  return true;
};

const shown = (bytes: Uint8Array, from: number, to: number): string =>
  String.fromCharCode(...bytes.subarray(from, Math.min(to, from + 40)))
    .replace(/[^\x20-\x7e]/g, '·')
    .trim();

/** The group code on a line; undefined where there is none. */
function codeIn(bytes: Uint8Array, from: number, to: number): number | undefined {
  let k = from;
  let value = 0;
  let digits = 0;
  let sign = 1;
  while (k < to && (bytes[k] as number) <= 32) k++;
  if (bytes[k] === 45) {
    sign = -1;
    k++;
  }
  for (; k < to && digits < 6; k++, digits++) {
    const d = (bytes[k] as number) - 48;
    if (d < 0 || d > 9) break;
    value = value * 10 + d;
  }
  while (k < to && (bytes[k] as number) <= 32) k++;
  return digits > 0 && k === to && value <= 1100 ? sign * value : undefined;
}

const powers = Array.from({ length: 23 }, (_, i) => 10 ** i);

/**
 * A decimal number in ASCII; NaN where it is none. Exact: up to 15 digits by one division or product, longer ones by
 * the engine.
 */
function numberIn(bytes: Uint8Array, from: number, to: number): number {
  let k = from;
  let mantissa = 0;
  let digits = 0;
  let scale = 0;
  let sign = 1;
  while (k < to && (bytes[k] as number) <= 32) k++;
  if (bytes[k] === 45 || bytes[k] === 43) sign = bytes[k++] === 45 ? -1 : 1;
  const begin = k;
  let point = false;
  let seen = false;
  for (; k < to; k++) {
    const c = bytes[k] as number;
    if (c === 46 && !point) point = true;
    else if (c >= 48 && c <= 57) {
      seen = true;
      if (digits || c !== 48) digits++;
      mantissa = mantissa * 10 + (c - 48);
      if (point) scale++;
    } else break;
  }
  while (to > k && (bytes[to - 1] as number) <= 32) to--;
  if (k === to && seen && digits <= 15 && scale <= 22) return sign * (mantissa / (powers[scale] as number));
  if (begin === to) return NaN;
  const text = String.fromCharCode(...bytes.subarray(begin, Math.min(to, begin + 80))).trim();
  return /^[\d.]+(?:[eEdD][-+]?\d+)?$/.test(text) ? sign * Number(text.replace(/[dD]/, 'e')) : NaN;
}
