/** An XML file as it is written: its elements, with attributes that can be changed one by one. */
import { concat } from '../../bytes/concat.ts';
import type { At, Fields, Gap, Rename, Source, SourceNode, Splice } from '../../model/source.ts';
import type { Decoded } from './decode.ts';
import { spliced } from '../shared/splices.ts';
import type { XmlDocument, XmlElement } from './parse.ts';
import { attributesOf, closeOf, isSelfClosing, tagNameOf, type Attribute } from './attributes.ts';

/** Field of all that such an element holds. */
const CONTENT = '#content';
const REFERENCE = /#([^)"'\s;,]+)/g;
const NUMBER = /[-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?/gi;
const DIGITS = 9;
const nothing = new Uint8Array(0);

/** What is particular to a language that is written in XML. */
export interface XmlLanguage {
  readonly format: string;
  readonly order: Source['order'];
  /** Elements that count as one with all that they hold: words with their runs, style sheets, settings of programs. */
  readonly whole: ReadonlySet<string>;
  readonly isHousekeeping: (name: string) => boolean;
}

export class XmlSource implements Source {
  readonly format: string;
  readonly order: Source['order'];
  readonly nodes: SourceNode[] = [];
  readonly bytes: Uint8Array;
  private readonly elements: XmlElement[] = [];
  private readonly byStart = new Map<number, number>();
  private readonly decoded: Decoded;
  private readonly original: Uint8Array;
  private readonly utf8: boolean;
  private readonly language: XmlLanguage;

  constructor(language: XmlLanguage, { root, decoded }: XmlDocument, original: Uint8Array) {
    this.language = language;
    this.format = language.format;
    this.order = language.order;
    this.decoded = decoded;
    this.bytes = decoded.bytes;
    this.original = original;
    const declared = /^[^>]{0,200}?encoding\s*=\s*["']([\w.-]+)/.exec(decoded.scan.slice(0, 300))?.[1] ?? 'utf-8';
    this.utf8 = decoded.transcoded || /^utf-?8$/i.test(declared);
    this.add(root, -1);
  }

  private add(top: XmlElement, topParent: number): void {
    const pending: [XmlElement, number][] = [[top, topParent]];
    for (let next = pending.pop(); next; next = pending.pop()) {
      const [e, parent] = next;
      const index = this.nodes.length;
      const id = e.attributes['id'];
      const { start, end } = e;
      this.nodes.push({ kind: e.name, keys: id ? [`#${id}`] : [], parent, children: [], start, end });
      this.elements.push(e);
      this.byStart.set(e.start, index);
      this.nodes[parent]?.children.push(index);
      if (this.language.whole.has(e.name)) continue;
      for (let k = e.children.length - 1; k >= 0; k--) {
        const child = e.children[k];
        if (child !== undefined && typeof child !== 'string') pending.push([child, index]);
      }
    }
  }

  element(node: number): XmlElement {
    return this.elements[node] as XmlElement;
  }

  private attributes(node: number): Attribute[] {
    return attributesOf(this.element(node), this.decoded);
  }

  /** What stands between the tags of an element that counts as one. */
  content(node: number): string {
    const e = this.element(node);
    if (!this.language.whole.has(e.name) || isSelfClosing(e, this.decoded)) return '';
    return this.decoded.text(e.openEnd, closeOf(e, this.decoded));
  }

  fields(node: number, rename?: Rename): Fields {
    const found = new Map<string, string>();
    for (const { name, raw } of this.attributes(node))
      if (name !== 'id' && !name.startsWith('xmlns')) found.set(name, inOneSpelling(renamed(raw, rename)));
    if (this.language.whole.has(this.element(node).name))
      found.set(CONTENT, renamed(this.content(node), rename).trim());
    return found;
  }

  refersTo(node: number): string[] {
    const found: string[] = [];
    const collect = (text: string): void => {
      for (const [, id] of text.matchAll(REFERENCE)) if (id) found.push(`#${id}`);
    };
    for (const { name, raw } of this.attributes(node))
      if (raw.includes('#') && (name.endsWith('href') || raw.includes('url('))) collect(raw);
    const inside = this.content(node);
    if (inside.includes('#')) collect(inside);
    return found;
  }

  isHousekeeping(node: number): boolean {
    return this.language.isHousekeeping(this.element(node).name);
  }

  nodeOf([start]: readonly [number, number]): number {
    return this.byStart.get(start) ?? -1;
  }

  changed(node: number, from: At, to: At, rename: Rename, keep: ReadonlySet<string>): Splice[] {
    const before = xmlSource(from.source);
    const after = xmlSource(to.source);
    const e = this.element(node);
    const was = before.fields(from.node);
    const is = after.fields(to.node, rename);
    const own = new Map(this.attributes(node).map((a) => [a.name, a]));
    const raw = new Map(after.attributes(to.node).map((a) => [a.name, a]));
    const splices: Splice[] = [];
    const tagEnd = e.openEnd - (isSelfClosing(e, this.decoded) ? 2 : 1);
    for (const name of new Set([...was.keys(), ...is.keys()])) {
      if (name === CONTENT || keep.has(name) || was.get(name) === is.get(name)) continue;
      const there = own.get(name);
      const wanted = raw.get(name);
      if (wanted) {
        const written = this.attribute(name, renamed(wanted.raw, rename), wanted.quote);
        if (there) splices.push({ start: there.start, end: there.end, bytes: this.encode(written) });
        else splices.push({ start: tagEnd, end: tagEnd, bytes: this.encode(` ${written}`) });
      } else if (there) splices.push({ start: this.beforeRoom(there.start), end: there.end, bytes: nothing });
    }
    if (!keep.has(CONTENT) && was.get(CONTENT) !== is.get(CONTENT))
      splices.push(...this.filled(node, renamed(after.content(to.node), rename)));
    return splices;
  }

  private filled(node: number, content: string): Splice[] {
    const e = this.element(node);
    const tag = tagNameOf(e, this.decoded);
    if (isSelfClosing(e, this.decoded))
      return [{ start: e.openEnd - 2, end: e.end, bytes: this.encode(`>${content}</${tag}>`) }];
    return [{ start: e.openEnd, end: closeOf(e, this.decoded), bytes: this.encode(content) }];
  }

  private attribute(name: string, raw: string, quote: string): string {
    return `${name}=${quote}${raw}${quote}`;
  }

  copied({ source, node }: At, rename: Rename): { head: Uint8Array; tail: Uint8Array } {
    const other = xmlSource(source);
    const e = other.element(node);
    const tag = this.tagFor(other, e);
    const written = other.attributes(node).flatMap((a) => this.copiedAttribute(a, rename));
    const styled = this.stylesOf(other, node);
    const attributes =
      styled === undefined ? written : [...written.filter((a) => !/^(?:style|class)=/.test(a)), styled];
    const spaces = this.namespacesFor(other, node);
    const open = [tag, ...spaces, ...attributes].join(' ');
    const isSelfClosed = isSelfClosing(e, other.decoded);
    const isAsWritten = open === other.inOneLine(node);
    const start = isAsWritten ? other.decoded.text(e.start, e.openEnd) : `<${open}${isSelfClosed ? '/' : ''}>`;
    if (isSelfClosed && e.children.length === 0) return { head: this.encode(start), tail: nothing };
    if (this.language.whole.has(e.name)) {
      const content = this.retagged(other, renamed(other.content(node), rename));
      return { head: this.encode(`${start}${content}`), tail: this.encode(`</${tag}>`) };
    }
    const close = closeOf(e, other.decoded);
    const room = other.bytes.subarray(other.beforeRoom(close), close);
    return { head: this.encode(start), tail: concat([room, this.encode(`</${tag}>`)]) };
  }

  /** The opening tag without its signs, as it would be written anew. */
  private inOneLine(node: number): string {
    const written = this.attributes(node).map(({ name, raw, quote }) => this.attribute(name, raw, quote));
    return [tagNameOf(this.element(node), this.decoded), ...written].join(' ');
  }

  private copiedAttribute({ name, raw, quote }: Attribute, rename: Rename): string[] {
    if (name.startsWith('xmlns')) return [];
    if (name !== 'id') return [this.attribute(name, renamed(raw, rename), quote)];
    const key = rename(`#${raw}`);
    return key === undefined ? [] : [this.attribute('id', key.slice(1), quote)];
  }

  /** The name of the element with the prefix that this file uses. */
  private tagFor(other: XmlSource, e: XmlElement): string {
    const own = tagNameOf(e, other.decoded);
    if (own.endsWith(`:${e.name}`) || own === e.name) return e.name.includes(':') ? own : `${this.prefix}${e.name}`;
    return own;
  }

  private get prefix(): string {
    const tag = tagNameOf(this.element(0), this.decoded);
    return tag.slice(0, tag.indexOf(':') + 1);
  }

  private retagged(other: XmlSource, content: string): string {
    const { prefix } = other;
    if (prefix === this.prefix) return content;
    if (!prefix) return content.replace(/<(\/?)(?=[A-Za-z])/g, `<$1${this.prefix}`);
    return content.replaceAll(`<${prefix}`, `<${this.prefix}`).replaceAll(`</${prefix}`, `</${this.prefix}`);
  }

  /** Prefixes that the copied element uses and this file does not know. */
  private namespacesFor(other: XmlSource, node: number): string[] {
    const e = other.element(node);
    const used = new Set(
      [e.name, ...other.attributes(node).map((a) => a.name)].flatMap((name) =>
        name.includes(':') && !name.startsWith('xml') ? [name.slice(0, name.indexOf(':'))] : [],
      ),
    );
    return [...used].flatMap((prefix) => {
      const wanted = other.declaredNamespace(e, prefix);
      const here = this.element(0).attributes[`xmlns:${prefix}`];
      return wanted === undefined || wanted === here ? [] : [`xmlns:${prefix}="${wanted}"`];
    });
  }

  private declaredNamespace(e: XmlElement, prefix: string): string | undefined {
    for (let at: XmlElement | undefined = e; at; at = at.parent) {
      const found = at.attributes[`xmlns:${prefix}`];
      if (found !== undefined) return found;
    }
    return undefined;
  }

  /** What rules that stay behind say of an element, as a style of its own; undefined where nothing is needed. */
  protected stylesOf(_other: XmlSource, _node: number): string | undefined {
    return undefined;
  }

  gap(parent: number, behind: number): Gap {
    const e = this.element(parent);
    if (behind >= 0) return { at: this.end(behind), end: this.end(behind), open: nothing, close: nothing };
    if (!isSelfClosing(e, this.decoded)) return { at: e.openEnd, end: e.openEnd, open: nothing, close: nothing };
    const tag = tagNameOf(e, this.decoded);
    return { at: e.openEnd - 2, end: e.end, open: this.encode('>'), close: this.encode(`</${tag}>`) };
  }

  roomBefore(node: number): Uint8Array {
    return this.bytes.subarray(this.beforeRoom(this.at(node)), this.at(node));
  }

  private at(node: number): number {
    return (this.nodes[node] as SourceNode).start;
  }

  private end(node: number): number {
    return (this.nodes[node] as SourceNode).end;
  }

  extent(node: number): readonly [number, number] {
    return [this.beforeRoom(this.at(node)), this.end(node)];
  }

  private beforeRoom(start: number): number {
    let at = start;
    while (at > 0 && (this.bytes[at - 1] as number) <= 0x20) at--;
    return at;
  }

  free(key: string, taken: (key: string) => boolean): string {
    const stem = key.replace(/-\d+$/, '');
    let n = 2;
    while (taken(`${stem}-${n}`)) n++;
    return `${stem}-${n}`;
  }

  written(splices: readonly Splice[]): Uint8Array {
    const bytes = spliced(this.bytes, splices);
    if (!this.decoded.transcoded) return bytes;
    return wide(new TextDecoder().decode(bytes), this.original);
  }

  private encode(text: string): Uint8Array {
    const safe = this.utf8 ? text : text.replace(/[^\x00-\x7f]/gu, (c) => `&#${c.codePointAt(0) ?? 63};`);
    return new TextEncoder().encode(safe);
  }
}

/** Pieces of one format are not written into files of another. */
function xmlSource(source: Source): XmlSource {
  if (source instanceof XmlSource) return source;
  throw new Error(`a piece of ${source.format} cannot be written into XML`);
}

/** Text as UTF-16 in the order of bytes that the original has, with its mark. */
function wide(text: string, original: Uint8Array): Uint8Array {
  const big = original[0] === 0xfe || original[0] === 0;
  const marked = original[0] === 0xff || original[0] === 0xfe;
  const whole = marked && !text.startsWith('\ufeff') ? `\ufeff${text}` : text;
  const out = new Uint8Array(whole.length * 2);
  const view = new DataView(out.buffer);
  for (let k = 0; k < whole.length; k++) view.setUint16(2 * k, whole.charCodeAt(k), !big);
  return out;
}

function renamed(raw: string, rename: Rename | undefined): string {
  if (!rename || !raw.includes('#')) return raw;
  return raw.replace(REFERENCE, (whole) => rename(whole) ?? whole);
}

function inOneSpelling(raw: string): string {
  const value = raw.trim().replace(/\s+/g, ' ');
  if (value.includes('#')) return value;
  return value.replace(NUMBER, (n) => String(Number(Number(n).toPrecision(DIGITS))));
}
