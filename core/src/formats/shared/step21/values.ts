/** Values of the clear text encoding of ISO 10303-21 (2016). */
import { wordsOfStep } from './words.ts';

/** Another record, by its number. */
export class Ref {
  readonly id: number;

  constructor(id: number) {
    this.id = id;
  }
}

/** One of a list of names: `.ELEMENT.` */
export class Enumerated {
  readonly name: string;

  constructor(name: string) {
    this.name = name;
  }
}

/** A value that says of which type it is: `IFCLABEL('a')`. */
export class Typed {
  readonly type: string;
  readonly value: Value;

  constructor(type: string, value: Value) {
    this.type = type;
    this.value = value;
  }
}

/** `$` and `*` are null. */
export type Value = string | number | null | Ref | Enumerated | Typed | readonly Value[];

/** A record has one of these, or several where its type is put together. */
export interface Call {
  readonly type: string;
  readonly values: readonly Value[];
}

/** Lists within lists. */
const DEEPEST = 64;

/** What stands behind the number of a record: `IFCWALL('…',#5,$)`, or `(A(1.)B(2.))`. Throws RangeError on damage. */
export function callsOf(text: string): Call[] {
  const reader = new Reader(text);
  return reader.calls();
}

class Reader {
  private readonly text: string;
  private at = 0;

  constructor(text: string) {
    this.text = text;
  }

  calls(): Call[] {
    this.skip();
    if (this.text[this.at] !== '(') return [this.call()];
    this.at += 1;
    const out: Call[] = [];
    for (this.skip(); this.text[this.at] !== ')'; this.skip()) out.push(this.call());
    return out;
  }

  private call(): Call {
    this.skip();
    const type = this.name();
    this.skip();
    if (this.text[this.at] !== '(') throw this.damage();
    return { type, values: this.list(0) };
  }

  private name(): string {
    const start = this.at;
    while (isOfName(this.text.charCodeAt(this.at))) this.at += 1;
    if (this.at === start) throw this.damage();
    return this.text.slice(start, this.at).toUpperCase();
  }

  private list(depth: number): Value[] {
    if (depth > DEEPEST) throw this.damage();
    const out: Value[] = [];
    this.at += 1;
    this.skip();
    if (this.text[this.at] === ')') {
      this.at += 1;
      return out;
    }
    for (;;) {
      out.push(this.value(depth));
      this.skip();
      const next = this.text[this.at];
      this.at += 1;
      if (next === ')') return out;
      if (next !== ',') throw this.damage();
    }
  }

  private value(depth: number): Value {
    this.skip();
    const first = this.text[this.at];
    switch (first) {
      case '$':
      case '*':
        this.at += 1;
        return null;
      case "'":
        return this.words();
      case '#':
        this.at += 1;
        return new Ref(this.number());
      case '(':
        return this.list(depth + 1);
      case '.':
        return this.enumerated();
      case '"':
        return this.binary();
      default:
        return first !== undefined && /[-+\d]/.test(first) ? this.number() : this.typed(depth);
    }
  }

  private typed(depth: number): Value {
    const type = this.name();
    this.skip();
    if (this.text[this.at] !== '(') throw this.damage();
    return new Typed(type, this.list(depth + 1)[0] ?? null);
  }

  private words(): string {
    const start = this.at + 1;
    let end = start;
    for (;;) {
      end = this.text.indexOf("'", end);
      if (end < 0) throw this.damage();
      if (this.text[end + 1] !== "'") break;
      end += 2;
    }
    this.at = end + 1;
    return wordsOfStep(this.text.slice(start, end));
  }

  private enumerated(): Enumerated {
    const end = this.text.indexOf('.', this.at + 1);
    if (end < 0) throw this.damage();
    const name = this.text.slice(this.at + 1, end);
    this.at = end + 1;
    return new Enumerated(name);
  }

  private binary(): string {
    const end = this.text.indexOf('"', this.at + 1);
    if (end < 0) throw this.damage();
    const said = this.text.slice(this.at + 1, end);
    this.at = end + 1;
    return said;
  }

  private number(): number {
    const start = this.at;
    while (isOfNumber(this.text.charCodeAt(this.at))) this.at += 1;
    const value = Number(this.text.slice(start, this.at));
    if (this.at === start || Number.isNaN(value)) throw this.damage();
    return value;
  }

  /** White space and remarks. */
  private skip(): void {
    for (;;) {
      while (this.text.charCodeAt(this.at) <= 32) this.at += 1;
      if (this.text[this.at] !== '/' || this.text[this.at + 1] !== '*') return;
      const end = this.text.indexOf('*/', this.at);
      this.at = end < 0 ? this.text.length : end + 2;
    }
  }

  private damage(): RangeError {
    return new RangeError(`a record cannot be read at ${this.at}: ${this.text.slice(this.at, this.at + 20)}`);
  }
}

const isOfName = (code: number): boolean =>
  (code >= 65 && code <= 90) || (code >= 97 && code <= 122) || (code >= 48 && code <= 57) || code === 95;

/** Digits, signs, point and exponent. */
const isOfNumber = (code: number): boolean =>
  (code >= 48 && code <= 57) || code === 43 || code === 45 || code === 46 || code === 69 || code === 101;
