/**
 * A strict, bounded XML reader that keeps the byte place of every element.
 * Names keep their prefix, except that a prefix bound to `mainNamespace` is dropped.
 */
import type { Limits } from '../../model/limits.ts';
import { ReadError } from '../../model/problem.ts';
import { decodeXml, type Decoded } from './decode.ts';
import { Entities } from './entities.ts';

const LINK_NAMESPACE = 'http://www.w3.org/1999/xlink';
/** Attributes of one element: nobody writes more, and some readers take time that grows with their square. */
const MOST_ATTRIBUTES = 4096;

export interface XmlElement {
  readonly name: string;
  readonly attributes: Readonly<Record<string, string>>;
  readonly children: (XmlElement | string)[];
  readonly parent: XmlElement | undefined;
  /** Byte offsets: start of the opening tag, end of the opening tag, end of the element. */
  readonly start: number;
  readonly openEnd: number;
  end: number;
}

export interface XmlDocument {
  readonly root: XmlElement;
  readonly decoded: Decoded;
  readonly elements: number;
  readonly notes: readonly string[];
}

export function parseXml(input: Uint8Array, limits: Limits, mainNamespace: string): XmlDocument {
  return new Parser(decodeXml(input), limits, mainNamespace).run();
}

const WHITE = /\s/;

class Parser {
  private at = 0;
  private readonly scan: string;
  private readonly entities = new Entities();
  private readonly mainPrefixes = new Set<string>();
  private readonly linkPrefixes = new Set<string>();
  private readonly notes: string[] = [];
  private readonly stack: XmlElement[] = [];
  private root: XmlElement | undefined;
  private elements = 0;
  private readonly decoded: Decoded;
  private readonly limits: Limits;
  private readonly mainNamespace: string;

  constructor(decoded: Decoded, limits: Limits, mainNamespace: string) {
    this.decoded = decoded;
    this.limits = limits;
    this.mainNamespace = mainNamespace;
    this.scan = decoded.scan;
  }

  run(): XmlDocument {
    const { scan } = this;
    while (this.at < scan.length) {
      const open = scan.indexOf('<', this.at);
      const textEnd = open < 0 ? scan.length : open;
      if (textEnd > this.at) this.text(this.at, textEnd);
      if (open < 0) break;
      this.at = open;
      this.markup();
      if (this.root && this.stack.length === 0 && scan.indexOf('<', this.at) < 0) break;
    }
    const unfinished = this.stack.at(-1);
    if (unfinished) {
      throw new ReadError(
        `The file stops before <${unfinished.name}>, which begins at byte ${unfinished.start.toLocaleString('en')}, is closed. It was probably cut off while being saved or sent.`,
        scan.length,
      );
    }
    if (!this.root) throw new ReadError('The file has no XML element in it.', 0);
    if (this.entities.external.length) {
      this.notes.push(
        `The file refers to text outside itself (${this.entities.external.slice(0, 3).join(', ')}); it was not fetched.`,
      );
    }
    return { root: this.root, decoded: this.decoded, elements: this.elements, notes: this.notes };
  }

  private markup(): void {
    const { scan, at } = this;
    const next = scan.charCodeAt(at + 1);
    if (next === 0x21 /* ! */) {
      if (scan.startsWith('<!--', at)) this.at = this.after('-->', at + 4, 'a comment');
      else if (scan.startsWith('<![CDATA[', at)) {
        const end = this.after(']]>', at + 9, 'a CDATA section');
        this.stack.at(-1)?.children.push(this.decoded.text(at + 9, end - 3));
        this.at = end;
      } else this.doctype();
    } else if (next === 0x3f /* ? */) this.at = this.after('?>', at + 2, 'a processing instruction');
    else if (next === 0x2f /* / */) this.closeTag();
    else this.openTag();
  }

  private after(mark: string, from: number, what: string): number {
    const found = this.scan.indexOf(mark, from);
    if (found < 0)
      throw new ReadError(
        `The file stops inside ${what} that begins at byte ${this.at.toLocaleString('en')}.`,
        this.at,
      );
    return found + mark.length;
  }

  private doctype(): void {
    const start = this.at;
    const close = this.scan.indexOf('>', start);
    const subset = this.scan.indexOf('[', start);
    if (subset >= 0 && subset < close) {
      const end = this.after(']', subset, 'the document type declaration');
      this.entities.declare(this.decoded.text(subset + 1, end - 1), subset + 1);
      this.at = this.after('>', end, 'the document type declaration');
    } else this.at = this.after('>', start, 'the document type declaration');
  }

  private closeTag(): void {
    const { scan, at } = this;
    const end = this.after('>', at + 2, 'a closing tag');
    const raw = scan.slice(at + 2, end - 1).trim();
    const element = this.stack.pop();
    if (!element || element.name !== this.localName(raw)) {
      throw new ReadError(
        element
          ? `</${raw.slice(0, 40)}> at byte ${at.toLocaleString('en')} does not close <${element.name}>, which begins at byte ${element.start.toLocaleString('en')}.`
          : `</${raw.slice(0, 40)}> at byte ${at.toLocaleString('en')} closes nothing.`,
        at,
      );
    }
    element.end = end;
    this.at = end;
  }

  private openTag(): void {
    const { scan } = this;
    const start = this.at;
    let i = start + 1;
    while (i < scan.length && !isNameEnd(scan.charCodeAt(i))) i++;
    const raw = scan.slice(start + 1, i);
    if (!/^[A-Za-z_:\u0080-\uffff]/.test(raw)) {
      throw new ReadError(`“<” at byte ${start.toLocaleString('en')} does not begin an element.`, start);
    }
    const attributes: Record<string, string> = Object.create(null) as Record<string, string>;
    let selfClosing = false;
    let count = 0;
    for (;;) {
      while (i < scan.length && WHITE.test(scan[i] as string)) i++;
      const c = scan[i];
      if (c === '>') break;
      if (c === '/' && scan[i + 1] === '>') {
        selfClosing = true;
        i++;
        break;
      }
      if (c === undefined) throw this.unfinishedTag(raw, start);
      i = this.attribute(raw, start, i, attributes);
      count += 1;
      if (count > MOST_ATTRIBUTES)
        throw new ReadError(
          `<${raw}> at byte ${start.toLocaleString('en')} has more than ${MOST_ATTRIBUTES.toLocaleString('en')} attributes.`,
          start,
        );
    }
    this.at = i + 1;
    this.place(raw, attributes, start, selfClosing);
  }

  /** Reads one attribute at `i`; returns the place after it. */
  private attribute(tag: string, start: number, i: number, into: Record<string, string>): number {
    const { scan } = this;
    const nameStart = i;
    while (i < scan.length && !isNameEnd(scan.charCodeAt(i)) && scan[i] !== '=') i++;
    const name = scan.slice(nameStart, i);
    while (i < scan.length && WHITE.test(scan[i] as string)) i++;
    if (i >= scan.length) throw this.unfinishedTag(tag, start);
    if (!name || scan[i] !== '=') {
      throw new ReadError(
        `<${tag}> at byte ${start.toLocaleString('en')} has an attribute without a value (“${name.slice(0, 40) || scan[i]}”).`,
        nameStart,
      );
    }
    i++;
    while (i < scan.length && WHITE.test(scan[i] as string)) i++;
    const quote = scan[i];
    if (quote !== '"' && quote !== "'") {
      if (quote === undefined) throw this.unfinishedTag(tag, start);
      throw new ReadError(
        `The attribute ${name.slice(0, 40)} of <${tag}> at byte ${start.toLocaleString('en')} has no quotes.`,
        i,
      );
    }
    const end = scan.indexOf(quote, i + 1);
    if (end < 0) throw this.unfinishedTag(tag, start);
    if (name in into)
      throw new ReadError(
        `<${tag}> at byte ${start.toLocaleString('en')} has the attribute ${name.slice(0, 40)} twice.`,
        nameStart,
      );
    into[name] = this.entities.expand(this.decoded.text(i + 1, end));
    return end + 1;
  }

  private unfinishedTag(name: string, start: number): ReadError {
    return new ReadError(
      `The file stops in the middle of <${name.slice(0, 40)}>, which begins at byte ${start.toLocaleString('en')}. It was probably cut off while being saved or sent.`,
      start,
    );
  }

  private place(raw: string, attributes: Record<string, string>, start: number, selfClosing: boolean): void {
    if (++this.elements > this.limits.elements) {
      throw new ReadError(
        `The file has more than ${this.limits.elements.toLocaleString('en')} elements, which is more than Ovrel reads part by part.`,
        start,
      );
    }
    if (this.stack.length >= this.limits.depth) {
      throw new ReadError(
        `The elements of the file are nested more than ${this.limits.depth} deep (byte ${start.toLocaleString('en')}).`,
        start,
      );
    }
    for (const name in attributes) {
      if (!name.startsWith('xmlns:')) continue;
      if (attributes[name] === this.mainNamespace) this.mainPrefixes.add(name.slice(6));
      if (attributes[name] === LINK_NAMESPACE) this.linkPrefixes.add(name.slice(6));
    }
    this.nameLinks(attributes);
    const parent = this.stack.at(-1);
    const element: XmlElement = {
      name: this.localName(raw),
      attributes,
      children: [],
      parent,
      start,
      openEnd: this.at,
      end: this.at,
    };
    if (parent) parent.children.push(element);
    else if (this.root)
      throw new ReadError(
        `A second root element, <${raw.slice(0, 40)}>, begins at byte ${start.toLocaleString('en')}.`,
        start,
      );
    else this.root = element;
    if (!selfClosing) this.stack.push(element);
  }

  /** Links are called `xlink:href` whatever prefix the file has for them. */
  private nameLinks(attributes: Record<string, string>): void {
    for (const prefix of this.linkPrefixes) {
      const value = attributes[`${prefix}:href`];
      if (prefix !== 'xlink' && value !== undefined) attributes['xlink:href'] ??= value;
    }
  }

  private text(start: number, end: number): void {
    const parent = this.stack.at(-1);
    let i = start;
    while (i < end && WHITE.test(this.scan[i] as string)) i++;
    if (i === end || !parent) {
      if (i < end && this.root)
        throw new ReadError(`There is text after the end of the drawing, at byte ${i.toLocaleString('en')}.`, i);
      if (i < end && this.decoded.text(i, end).replace(/[\ufeff\s]/g, '')) {
        throw new ReadError('The file does not begin with XML.', i);
      }
      return;
    }
    parent.children.push(this.entities.expand(this.decoded.text(start, end)));
    this.at = end;
  }

  private localName(raw: string): string {
    const colon = raw.indexOf(':');
    return colon > 0 && this.mainPrefixes.has(raw.slice(0, colon)) ? raw.slice(colon + 1) : raw;
  }
}

// Ends a name: white space, "/" and ">".
const isNameEnd = (c: number): boolean => c <= 0x20 || c === 0x2f || c === 0x3e;
