/** A DXF file as it is written: its records, with groups that can be changed one by one. */
import { concat } from '../../bytes/concat.ts';
import type { Limits } from '../../model/limits.ts';
import { ReadError } from '../../model/problem.ts';
import type { At, Fields, Gap, Rename, Source, SourceNode, Splice } from '../../model/source.ts';
import { spliced } from '../shared/splices.ts';
import { keyOf, nextRecord } from './document.ts';
import { Emitter } from './emit.ts';
import { Groups, sizeOfValue } from './groups.ts';
import { encodingOf, unescape } from './words.ts';

/** Records that end one that they belong to, by its type. */
const CLOSES: Readonly<Record<string, string>> = {
  ENDSEC: 'SECTION',
  ENDTAB: 'TABLE',
  ENDBLK: 'BLOCK',
  SEQEND: 'INSERT',
};
/** Rows of tables, which others name. */
const NAMED: ReadonlySet<string> = new Set([
  'LAYER',
  'LTYPE',
  'STYLE',
  'DIMSTYLE',
  'APPID',
  'VIEW',
  'UCS',
  'VPORT',
  'BLOCK_RECORD',
  'BLOCK',
]);
/** Variables that decide how a drawing looks; the others are what a program remembers. */
const SEEN = /^\$(?:INSUNITS|P?S?LTSCALE|MEASUREMENT|PDMODE|PDSIZE|LUNITS|LUPREC|FILLMODE|DIM\w+)$/;
/** Objects that what is drawn stands on. */
const DRAWN_WITH: ReadonlySet<string> = new Set(['LAYOUT', 'IMAGEDEF', 'MLINESTYLE']);
const DIGITS = 10;
const APPLICATION = 102;
const VARIABLE = 9;
const nothing = new Uint8Array(0);

/** Throws ReadError for what is no DXF drawing, and for damaged ones. */
export function sourceOfDxf(bytes: Uint8Array, limits: Limits): Source {
  const groups = new Groups(bytes, limits);
  if (groups.damage)
    throw new ReadError(
      `The drawing is damaged: at byte ${groups.damage.offset.toLocaleString('en')}, ${groups.damage.sentence}.`,
      groups.damage.offset,
    );
  return new DxfSource(groups);
}

/** Groups of a node: its own statement, and the record that ends it, where it has one. */
interface Extent {
  readonly first: number;
  last: number;
  close: number;
  closeLast: number;
}

class DxfSource implements Source {
  readonly format = 'dxf';
  readonly order = 'never';
  readonly nodes: SourceNode[] = [];
  readonly bytes: Uint8Array;
  private readonly groups: Groups;
  private readonly extents: Extent[] = [];
  private readonly byStart = new Map<number, number>();
  private readonly emitter: Emitter;
  /** Handles given to what was copied. */
  private given = 0n;
  private highest = 0n;
  private seed = -1;

  constructor(groups: Groups) {
    this.groups = groups;
    this.bytes = groups.bytes;
    this.survey();
    this.emitter = new Emitter(groups);
  }

  private survey(): void {
    const { groups: g } = this;
    const open = [this.add('DXF', 0, 0, -1)];
    let i = 0;
    while (i < g.count && g.codes[i] !== 0) i++;
    while (i < g.count) {
      const type = g.word(i);
      const last = nextRecord(g, i);
      const closed = CLOSES[type];
      if (closed !== undefined) this.close(open, closed, i, last);
      else if (type === 'SECTION') this.section(open, i, last);
      else if (type === 'VERTEX' && this.kind(open.at(-1)) === 'POLYLINE') this.lengthen(open.at(-1) as number, last);
      else {
        this.leave(open, type);
        const node = this.add(type, i, last, open.at(-1) as number);
        if (this.opens(type, i, last)) open.push(node);
      }
      i = last;
    }
    (this.nodes[0] as SourceNode).end = this.bytes.length;
  }

  private kind(node: number | undefined): string {
    return this.nodes[node ?? -1]?.kind ?? '';
  }

  private opens(type: string, first: number, last: number): boolean {
    if (type === 'TABLE' || type === 'BLOCK' || type === 'POLYLINE') return true;
    return type === 'INSERT' && this.valueIn(first, last, 66) === '1';
  }

  /** What was open and is not ended by a record of its own. */
  private leave(open: number[], type: string): void {
    const kind = this.kind(open.at(-1));
    if (kind === 'POLYLINE' || (kind === 'INSERT' && type !== 'ATTRIB')) open.pop();
  }

  private close(open: number[], kind: string, first: number, last: number): void {
    const top = open.at(-1) as number;
    if (this.kind(top) === 'POLYLINE') {
      // A polyline and its corners count as one.
      if (kind === 'INSERT') this.lengthen(top, last);
      open.pop();
      if (kind === 'INSERT') return;
    }
    const at = open.findLastIndex((n) => this.kind(n) === kind);
    if (at < 1) return;
    for (const node of open.splice(at)) this.end(node, first, last, this.kind(node) === kind);
  }

  private end(node: number, first: number, last: number, isClosed: boolean): void {
    const extent = this.extents[node] as Extent;
    if (isClosed) Object.assign(extent, { close: first, closeLast: last });
    (this.nodes[node] as SourceNode).end = this.groups.endOf((isClosed ? last : first) - 1);
  }

  private lengthen(node: number, last: number): void {
    const extent = this.extents[node] as Extent;
    const from = extent.last;
    extent.last = last;
    const at = this.nodes[node] as SourceNode;
    at.end = this.groups.endOf(last - 1);
    at.keys.push(...this.handlesIn(from, last));
  }

  private section(open: number[], first: number, last: number): void {
    const { groups: g } = this;
    let head = first + 1;
    while (head < last && g.codes[head] !== VARIABLE) head++;
    open.length = 1;
    const node = this.add('SECTION', first, head, 0);
    open.push(node);
    let version = '';
    let page = '';
    for (let i = head; i < last;) {
      let next = i + 1;
      while (next < last && g.codes[next] !== VARIABLE) next++;
      const name = g.word(i);
      const variable = this.add(name, i, next, node);
      if (name === '$HANDSEED') this.seed = variable;
      if (name === '$ACADVER') version = g.text(i + 1).trim();
      if (name === '$DWGCODEPAGE') page = g.text(i + 1).trim();
      i = next;
    }
    if (version || page) g.decodeWith(encodingOf(version, page));
  }

  private add(kind: string, first: number, last: number, parent: number): number {
    const { groups: g } = this;
    const index = this.nodes.length;
    const start = index === 0 ? 0 : (g.at[first] as number);
    const end = last > first ? g.endOf(last - 1) : start;
    this.nodes.push({ kind, keys: index ? this.keysOf(kind, first, last) : [], parent, children: [], start, end });
    this.extents.push({ first, last, close: -1, closeLast: -1 });
    if (index) this.byStart.set(start, index);
    this.nodes[parent]?.children.push(index);
    return index;
  }

  private keysOf(kind: string, first: number, last: number): string[] {
    if (kind.startsWith('$')) return [`variable ${kind}`];
    const name = this.valueIn(first, last, 2);
    if (kind === 'SECTION' || kind === 'TABLE') return name === undefined ? [] : [`${kind.toLowerCase()} ${name}`];
    const named = NAMED.has(kind) && name !== undefined ? [nameKey(kind, name)] : [];
    return [...this.handlesIn(first, last), ...named];
  }

  private handlesIn(first: number, last: number): string[] {
    const { groups: g } = this;
    const found: string[] = [];
    for (let i = first; i < last; i++) {
      if (g.codes[i] !== 5 && g.codes[i] !== 105) continue;
      const handle = g.text(i).trim().toUpperCase();
      if (!/^[0-9A-F]{1,16}$/.test(handle)) continue;
      found.push(`handle ${handle}`);
      const number = BigInt(`0x${handle}`);
      if (number > this.highest) this.highest = number;
    }
    return found;
  }

  /** The first value of a group of the statement itself. */
  private valueIn(first: number, last: number, code: number): string | undefined {
    const { groups: g } = this;
    for (let i = first + 1; i < last; i++) if (g.codes[i] === code) return unescape(g.text(i)).trim();
    return undefined;
  }

  /** Groups that count when two are compared and written: without handles of its own, and without what programs note. */
  private *counted(node: number): Generator<{ i: number; name: string }> {
    const { groups: g } = this;
    const { first, last } = this.extents[node] as Extent;
    const seen = new Map<number, number>();
    let noted = false;
    for (let i = first; i < last; i++) {
      const code = g.codes[i] as number;
      if (code === APPLICATION) noted = g.bytes[g.from[i] as number] === 123;
      if (noted || code === APPLICATION || code === 5 || code === 105) continue;
      const k = seen.get(code) ?? 0;
      seen.set(code, k + 1);
      yield { i, name: `${code}.${k}` };
    }
  }

  fields(node: number, rename?: Rename): Fields {
    const found = new Map<string, string>();
    const { kind } = this.nodes[node] as SourceNode;
    for (const { i, name } of this.counted(node)) {
      const key = this.keyIn(kind, i);
      const other = key === undefined ? undefined : rename?.(key);
      found.set(name, other === undefined ? this.inOneSpelling(i) : this.named(i, key as string, other));
    }
    return found;
  }

  private inOneSpelling(i: number): string {
    const { groups: g } = this;
    if (sizeOfValue(g.codes[i] as number) === 'text') return g.text(i).trim();
    const number = g.number(i);
    return Number.isNaN(number) ? g.text(i).trim() : String(Number(number.toPrecision(DIGITS)));
  }

  /** What a group refers to, as a key; undefined for what is no reference. */
  private keyIn(kind: string, i: number): string | undefined {
    const { groups: g } = this;
    const code = g.codes[i] as number;
    if (isHandle(code)) return `handle ${g.text(i).trim().toUpperCase()}`;
    const space = spaceOf(kind, code);
    return space === undefined ? undefined : nameKey(space, unescape(g.text(i)).trim());
  }

  /** The value of a group that refers to another name now. */
  private named(i: number, key: string, other: string): string {
    if (key === other) return this.groups.text(i).trim();
    if (key.startsWith('handle ')) return other.slice('handle '.length);
    const own = unescape(this.groups.text(i)).trim();
    return other.startsWith(key) ? `${own}${other.slice(key.length)}` : other.slice(other.indexOf(' ') + 1);
  }

  refersTo(node: number): string[] {
    const { groups: g } = this;
    const { kind } = this.nodes[node] as SourceNode;
    const { first, last } = this.extents[node] as Extent;
    const found = new Set<string>();
    for (let i = first + 1; i < last; i++) {
      const code = g.codes[i] as number;
      if (isHandle(code) && code !== 340) continue;
      const key = this.keyIn(kind, i);
      if (key !== undefined && !/ (?:0|bylayer|byblock|continuous)?$/.test(key)) found.add(key);
    }
    if (kind === 'BLOCK') for (const key of (this.nodes[node] as SourceNode).keys) found.add(key);
    return [...found];
  }

  isHousekeeping(node: number): boolean {
    const { kind, parent } = this.nodes[node] as SourceNode;
    if (kind.startsWith('$')) return !SEEN.test(kind);
    if (kind === 'VPORT' || kind === 'CLASS') return true;
    return this.nodes[parent]?.keys[0] === 'section OBJECTS' && !DRAWN_WITH.has(kind);
  }

  nodeOf([start]: readonly [number, number]): number {
    return this.byStart.get(start) ?? -1;
  }

  changed(node: number, from: At, to: At, rename: Rename, keep: ReadonlySet<string>): Splice[] {
    const before = dxfSource(from.source);
    const after = dxfSource(to.source);
    const was = before.fields(from.node);
    const is = after.fields(to.node, rename);
    const own = new Map([...this.counted(node)].map(({ i, name }) => [name, i]));
    const theirs = [...after.counted(to.node)];
    const { kind } = after.nodes[to.node] as SourceNode;
    const splices: Splice[] = [];
    let behind = (this.extents[node] as Extent).first;
    for (const { i, name } of theirs) {
      const there = own.get(name);
      const isSame = keep.has(name) || was.get(name) === is.get(name);
      if (there !== undefined) behind = there;
      if (isSame) continue;
      const bytes = this.emitted(after, kind, i, rename);
      if (there === undefined)
        splices.push({ start: this.groups.endOf(behind), end: this.groups.endOf(behind), bytes });
      else splices.push({ start: this.groups.at[there] as number, end: this.groups.endOf(there), bytes });
    }
    for (const [name] of was) {
      const there = own.get(name);
      if (is.has(name) || keep.has(name) || there === undefined) continue;
      splices.push({ start: this.groups.at[there] as number, end: this.groups.endOf(there), bytes: nothing });
    }
    return oneAPlace(splices);
  }

  private emitted(from: DxfSource, kind: string, i: number, rename: Rename): Uint8Array {
    const key = from.keyIn(kind, i);
    const other = key === undefined ? undefined : rename(key);
    if (key !== undefined && key.startsWith('handle ') && other === undefined) return nothing;
    const value = key === undefined || other === undefined || other === key ? undefined : from.named(i, key, other);
    return this.emitter.group(from.groups, i, value);
  }

  copied({ source, node }: At, rename: Rename): { head: Uint8Array; tail: Uint8Array } {
    const other = dxfSource(source);
    const { first, last, close, closeLast } = other.extents[node] as Extent;
    const tail = close < 0 ? nothing : concat(this.copiedGroups(other, node, close, closeLast, rename));
    return { head: concat(this.copiedGroups(other, node, first, last, rename)), tail };
  }

  private copiedGroups(other: DxfSource, node: number, first: number, last: number, rename: Rename): Uint8Array[] {
    const { groups: g } = other;
    const { kind } = other.nodes[node] as SourceNode;
    const pieces: Uint8Array[] = [];
    let noted = false;
    for (let i = first; i < last; i++) {
      const code = g.codes[i] as number;
      // What other programs note of it refers to what is not copied.
      if (code === APPLICATION) noted = g.bytes[g.from[i] as number] === 123;
      if (noted || code === APPLICATION) continue;
      if (code === 5 || code === 105) {
        const key = `handle ${g.text(i).trim().toUpperCase()}`;
        const own = rename(key) ?? this.free(key);
        const handle = own.slice('handle '.length);
        this.noteHandle(handle);
        pieces.push(this.emitter.group(g, i, handle));
      } else if (code === 2 && NAMED.has(kind) && rename(nameKey(kind, unescape(g.text(i)).trim())) !== undefined) {
        const key = nameKey(kind, unescape(g.text(i)).trim());
        pieces.push(this.emitter.group(g, i, other.named(i, key, rename(key) as string)));
      } else pieces.push(this.emitted(other, kind, i, rename));
    }
    return pieces;
  }

  /** The next free handle lies beyond it. */
  private noteHandle(handle: string): void {
    const number = BigInt(`0x${handle}`);
    if (number > this.given) this.given = number;
  }

  gap(parent: number, behind: number): Gap {
    const at = behind >= 0 ? (this.nodes[behind] as SourceNode).end : this.groups.endOf(this.lastOwn(parent));
    return { at, end: at, open: nothing, close: nothing };
  }

  roomBefore(): Uint8Array {
    return nothing;
  }

  private lastOwn(node: number): number {
    return (this.extents[node] as Extent).last - 1;
  }

  extent(node: number): readonly [number, number] {
    const { start, end } = this.nodes[node] as SourceNode;
    return [start, end];
  }

  free(key: string, taken: (key: string) => boolean = () => false): string {
    if (!key.startsWith('handle ')) {
      let n = 2;
      while (taken(`${key}_${n}`)) n++;
      return `${key}_${n}`;
    }
    const most = [this.given, this.highest, this.valueOfSeed() - 1n].reduce((a, b) => (a > b ? a : b));
    this.given = most + 1n;
    return `handle ${this.given.toString(16).toUpperCase()}`;
  }

  private valueOfSeed(): bigint {
    if (this.seed < 0) return 0n;
    const { first } = this.extents[this.seed] as Extent;
    const digits = this.groups.text(first + 1).trim();
    return /^[0-9a-f]{1,16}$/i.test(digits) ? BigInt(`0x${digits}`) : 0n;
  }

  written(splices: readonly Splice[]): Uint8Array {
    if (this.seed < 0 || this.given < this.valueOfSeed()) return spliced(this.bytes, splices);
    const { first } = this.extents[this.seed] as Extent;
    const next = (this.given + 1n).toString(16).toUpperCase();
    const { groups: g } = this;
    const seed = {
      start: g.at[first + 1] as number,
      end: g.endOf(first + 1),
      bytes: this.emitter.group(g, first + 1, next),
    };
    return spliced(
      this.bytes,
      [...splices, seed].sort((a, b) => a.start - b.start),
    );
  }
}

/** Pieces of one format are not written into files of another. */
function dxfSource(source: Source): DxfSource {
  if (source instanceof DxfSource) return source;
  throw new Error(`a piece of ${source.format} cannot be written into a DXF drawing`);
}

/** Several splices at one place become one, in the order in which they came. */
function oneAPlace(splices: readonly Splice[]): Splice[] {
  const sorted = splices
    .map((splice, k) => ({ splice, k }))
    .sort((a, b) => a.splice.start - b.splice.start || a.splice.end - b.splice.end || a.k - b.k);
  const out: Splice[] = [];
  for (const { splice } of sorted) {
    const last = out.at(-1);
    if (last && last.start === splice.start && last.end === splice.end && last.start === last.end)
      out[out.length - 1] = { ...last, bytes: concat([last.bytes, splice.bytes]) };
    else out.push(splice);
  }
  return out;
}

/** Group codes whose values are handles of other records ("Group codes in numerical order"). */
const isHandle = (code: number): boolean =>
  (code >= 320 && code < 370) || (code >= 390 && code < 400) || code === 480 || code === 481 || code === 1005;

/** What a name in a group is a name of; undefined for what names nothing. */
function spaceOf(kind: string, code: number): string | undefined {
  if (kind.startsWith('$')) return undefined;
  if (code === 8) return 'layer';
  if (code === 6) return 'ltype';
  if (code === 7) return 'style';
  if (code === 1001) return 'appid';
  if (code === 2 && (kind === 'INSERT' || kind === 'DIMENSION' || kind === 'ACAD_TABLE')) return 'block';
  if (code === 3 && (kind === 'DIMENSION' || kind === 'LEADER' || kind === 'TOLERANCE')) return 'dimstyle';
  return undefined;
}

/** A block and its record go by one name. Names do not tell capitals apart. */
function nameKey(space: string, name: string): string {
  const lower = space.toLowerCase();
  return `${lower === 'block_record' ? 'block' : lower} ${keyOf(name)}`;
}
