/** The records of a file in the clear text of ISO 10303-21, found once and read when they are asked for. */
import { strFromU8 } from 'fflate';
import { ReadError } from '../../../model/problem.ts';
import { callsOf, type Call, type Value } from './values.ts';

const END = 'END-ISO-10303-21';
/** Records that are kept read; those that are asked for again are mostly few. */
const KEPT = 50_000;

export interface StepFile {
  readonly header: StepHeader;
  /** Whether it ends where it says that it ends. */
  readonly isWhole: boolean;
  /** What a reader should know, in sentences. */
  readonly notes: readonly string[];
  readonly count: number;
  /** Numbers of the records of a type, in the order of the file. */
  ofType(type: string): readonly number[];
  readonly types: Iterable<string>;
  typeOf(id: number): string | undefined;
  /** What the record says; empty where it is not there or damaged. */
  calls(id: number): readonly Call[];
  values(id: number): readonly Value[];
  /** Where the last record ends. */
  readonly end: number;
  /** The record as it is written, a letter a byte. */
  said(id: number): string;
  /** All numbers, in the order of the file. */
  ids(): Iterable<number>;
  /** Bytes of it, with its number and the semicolon. */
  span(id: number): readonly [start: number, end: number];
}

export interface StepHeader {
  readonly schema: string;
  readonly name: string;
  readonly written: string;
  readonly authors: readonly string[];
  /** The program that wrote it, and the one that it came from. */
  readonly writer: string;
  readonly program: string;
}

/** Throws ReadError where there are no records, or more than `most`. */
export function scanStep(bytes: Uint8Array, most = Infinity): StepFile {
  // A letter a byte, so that places in the text are places in the file.
  const text = strFromU8(bytes, true);
  const data = dataIn(text);
  if (data < 0) throw new ReadError('There is no data in this file.', undefined, 'missing');
  const scanned = new Scanned(text, data);
  if (scanned.count === 0) throw new ReadError('There are no records in this file.', undefined, 'empty');
  if (scanned.count > most)
    throw new ReadError('The model has more records than Ovrel looks into.', undefined, 'too-large');
  return scanned;
}

function dataIn(text: string): number {
  const found = /(?:^|;|\/)\s*DATA\s*(?:\([^;]*\))?\s*;/.exec(text);
  return found ? found.index + found[0].length : -1;
}

class Scanned implements StepFile {
  readonly header: StepHeader;
  readonly isWhole: boolean;
  readonly notes: readonly string[];
  private readonly text: string;
  /** By number: where a record stands. */
  private readonly places = new Map<number, number>();
  private readonly starts: number[] = [];
  private readonly ends: number[] = [];
  private readonly typeCodes: number[] = [];
  private readonly byType = new Map<string, number[]>();
  private readonly typeNames: string[] = [];
  private readonly codes = new Map<string, number>();
  private readonly kept = new Map<number, readonly Call[]>();

  constructor(text: string, from: number) {
    this.text = text;
    this.header = headerOf(text.slice(0, from));
    this.scan(from);
    this.isWhole = text.lastIndexOf(END) > (this.ends.at(-1) ?? from) - 1;
    this.notes = this.isWhole ? [] : ['The file does not end where it should: what stood behind that is not seen.'];
  }

  get count(): number {
    return this.places.size;
  }

  get end(): number {
    return this.ends.at(-1) ?? 0;
  }

  get types(): Iterable<string> {
    return this.byType.keys();
  }

  ofType = (type: string): readonly number[] => this.byType.get(type) ?? [];

  typeOf(id: number): string | undefined {
    return this.typeNames[this.typeCodes[this.places.get(id) ?? -1] ?? -1];
  }

  calls(id: number): readonly Call[] {
    const known = this.kept.get(id);
    if (known) return known;
    const read = this.read(id);
    if (this.kept.size >= KEPT) this.kept.clear();
    this.kept.set(id, read);
    return read;
  }

  values(id: number): readonly Value[] {
    return this.calls(id)[0]?.values ?? [];
  }

  said(id: number): string {
    return this.text.slice(...this.span(id));
  }

  ids(): Iterable<number> {
    return this.places.keys();
  }

  span(id: number): readonly [number, number] {
    const place = this.places.get(id) ?? -1;
    return [this.starts[place] ?? 0, this.ends[place] ?? 0];
  }

  private read(id: number): readonly Call[] {
    const [start, end] = this.span(id);
    if (end === 0) return [];
    const said = this.text.slice(start, end - 1);
    try {
      return callsOf(said.slice(said.indexOf('=') + 1));
    } catch (error) {
      if (error instanceof RangeError) return [];
      throw error;
    }
  }

  private scan(from: number): void {
    const { text } = this;
    let at = from;
    for (;;) {
      at = nextStatement(text, at);
      if (at >= text.length) return;
      if (text.charCodeAt(at) !== HASH) {
        // The end of this section; another one may follow.
        const end = endOfStatement(text, at);
        if (end < 0) return;
        at = end;
        continue;
      }
      const end = endOfStatement(text, at);
      if (end < 0) return;
      this.keep(at, end);
      at = end;
    }
  }

  private keep(start: number, end: number): void {
    const { text } = this;
    let at = start + 1;
    let id = 0;
    for (let digit = text.charCodeAt(at) - 48; digit >= 0 && digit <= 9; digit = text.charCodeAt(at) - 48) {
      id = 10 * id + digit;
      at += 1;
    }
    at = skipBlanks(text, at);
    if (text.charCodeAt(at) !== EQUALS) return;
    at = skipBlanks(text, at + 1);
    const nameStart = at;
    while (isOfName(text.charCodeAt(at))) at += 1;
    const name = text.slice(nameStart, at).toUpperCase();
    let code = this.codes.get(name);
    if (code === undefined) {
      code = this.typeNames.length;
      this.codes.set(name, code);
      this.typeNames.push(name);
      this.byType.set(name, []);
    }
    this.byType.get(name)?.push(id);
    this.places.set(id, this.starts.length);
    this.starts.push(start);
    this.ends.push(end);
    this.typeCodes.push(code);
  }
}

const [HASH, EQUALS, QUOTE, SEMICOLON, SLASH, STAR] = [35, 61, 39, 59, 47, 42] as const;

const isOfName = (code: number): boolean =>
  (code >= 65 && code <= 90) || (code >= 97 && code <= 122) || (code >= 48 && code <= 57) || code === 95;

function skipBlanks(text: string, from: number): number {
  let at = from;
  while (text.charCodeAt(at) <= 32) at += 1;
  return at;
}

function nextStatement(text: string, from: number): number {
  let at = from;
  for (;;) {
    at = skipBlanks(text, at);
    if (text.charCodeAt(at) !== SLASH || text.charCodeAt(at + 1) !== STAR) return at;
    const end = text.indexOf('*/', at);
    if (end < 0) return text.length;
    at = end + 2;
  }
}

/** Behind the next semicolon that stands in no words and no remark; −1 where there is none. */
function endOfStatement(text: string, from: number): number {
  let at = from;
  for (;;) {
    const code = text.charCodeAt(at);
    if (Number.isNaN(code)) return -1;
    if (code === SEMICOLON) return at + 1;
    if (code === QUOTE) {
      at = text.indexOf("'", at + 1);
      if (at < 0) return -1;
    } else if (code === SLASH && text.charCodeAt(at + 1) === STAR) {
      at = text.indexOf('*/', at);
      if (at < 0) return -1;
      at += 1;
    }
    at += 1;
  }
}

/** Bytes that are enough for a header. */
const HEADER = 65_536;

export const headerIn = (bytes: Uint8Array): StepHeader => {
  const text = strFromU8(bytes.subarray(0, HEADER), true);
  const data = dataIn(text);
  return headerOf(data < 0 ? text : text.slice(0, data));
};

function headerOf(text: string): StepHeader {
  const said = (type: string): readonly Value[] => {
    const start = text.search(new RegExp(`\\b${type}\\s*\\(`));
    const end = start < 0 ? -1 : endOfStatement(text, start);
    if (end < 0) return [];
    try {
      return callsOf(text.slice(start, end - 1))[0]?.values ?? [];
    } catch (error) {
      if (error instanceof RangeError) return [];
      throw error;
    }
  };
  const [name, written, authors, , writer, program] = said('FILE_NAME');
  const [schemas] = said('FILE_SCHEMA');
  const words = (value: Value | undefined): string => (typeof value === 'string' ? value.trim() : '');
  const list = (value: Value | undefined): readonly Value[] => (Array.isArray(value) ? (value as Value[]) : []);
  return {
    schema: words(list(schemas)[0]),
    name: words(name),
    written: words(written),
    authors: list(authors).map(words).filter(Boolean),
    writer: words(writer),
    program: words(program),
  };
}
