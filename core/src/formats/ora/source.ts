/**
 * An OpenRaster file as it is written: its list of layers, in which pixels are called by what they are instead of by
 * the names of their members, so that the lists of several files speak of the same pixels in the same words.
 */
import { newMember, packedMembers, zipOf, type PackedMember } from '../../bytes/zip-members.ts';
import { hashBytes } from '../../geometry/hash.ts';
import { engine } from '../../model/engines.ts';
import type { Limits } from '../../model/limits.ts';
import { ReadError } from '../../model/problem.ts';
import type { At, Fields, Gap, Rename, Source, SourceNode, Splice } from '../../model/source.ts';
import { spliced } from '../shared/splices.ts';
import { attributesOf } from '../xml/attributes.ts';
import { parseXml, type XmlDocument, type XmlElement } from '../xml/parse.ts';
import { XmlSource, type XmlLanguage } from '../xml/source.ts';
import { openedMembers } from './read.ts';

const LIST = 'stack.xml';
const WHOLE = 'mergedimage.png';
const SMALL = 'Thumbnails/thumbnail.png';
const SMALL_SIDE = 256;

const language: XmlLanguage = {
  format: 'ora',
  // Layers lie over one another; where they do not meet, their order does not show.
  order: 'covering',
  whole: new Set(),
  isHousekeeping: (name) => name.includes(':'),
};

/** Throws ReadError for what is no layered picture. */
export function sourceOfOra(bytes: Uint8Array, limits: Limits): Source {
  const packed = packedMembers(bytes);
  const contents = openedMembers(bytes);
  const list = contents[LIST];
  if (!packed || !list) throw new ReadError('The container has no list of layers (stack.xml).');
  return new OraSource(packed, contents, list, limits);
}

class OraSource implements Source {
  readonly format = language.format;
  readonly order = language.order;
  /** Lists begin with what lies on top. */
  readonly comesFirst = true;
  readonly bytes: Uint8Array;
  readonly nodes: readonly SourceNode[];
  private readonly packed: readonly PackedMember[];
  private readonly limits: Limits;
  private readonly list: XmlSource;
  /** Pixels by what they are called in the list, and the names of their members. */
  private readonly pixels = new Map<string, { readonly member: string; readonly png: Uint8Array }>();
  /** Nodes of layers and groups, in the order of the list. */
  private readonly layers: readonly number[];
  /** Files of which layers were taken. */
  private readonly taken = new Set<OraSource>();

  constructor(
    packed: readonly PackedMember[],
    contents: Readonly<Record<string, Uint8Array>>,
    list: Uint8Array,
    limits: Limits,
  ) {
    this.packed = packed;
    this.limits = limits;
    this.bytes = this.renamed(list, (member) => {
      const png = contents[member];
      if (!png) return undefined;
      const name = hashBytes(png);
      this.pixels.set(name, { member, png });
      return name;
    });
    this.list = new XmlSource(language, this.parsed(this.bytes), this.bytes);
    this.nodes = this.list.nodes;
    this.layers = this.nodes.flatMap(({ kind, parent }, k) => (isLayer(kind) && parent > 0 ? [k] : []));
  }

  private parsed(list: Uint8Array): XmlDocument {
    return parseXml(list, this.limits, '');
  }

  /** A list of layers in which pixels are called otherwise; undefined leaves a name as it is. */
  private renamed(list: Uint8Array, nameOf: (name: string) => string | undefined): Uint8Array {
    const { root, decoded } = this.parsed(list);
    const splices: Splice[] = [];
    for (const element of elementsOf(root)) {
      const name = element.name === 'layer' ? nameOf(element.attributes['src'] ?? '') : undefined;
      const written = attributesOf(element, decoded).find((a) => a.name === 'src');
      if (name === undefined || !written) continue;
      const { start, end, quote } = written;
      splices.push({ start, end, bytes: new TextEncoder().encode(`src=${quote}${name}${quote}`) });
    }
    return spliced(
      decoded.bytes,
      splices.sort((a, b) => a.start - b.start),
    );
  }

  fields(node: number): Fields {
    return this.list.fields(node);
  }

  refersTo(): string[] {
    return [];
  }

  isHousekeeping(node: number): boolean {
    return this.list.isHousekeeping(node);
  }

  nodeOf(_span: readonly [number, number], index: number): number {
    return this.layers[index] ?? -1;
  }

  changed(node: number, from: At, to: At, rename: Rename, keep: ReadonlySet<string>): Splice[] {
    return this.list.changed(node, this.listed(from), this.listed(to), rename, keep);
  }

  copied(from: At, rename: Rename): { readonly head: Uint8Array; readonly tail: Uint8Array } {
    return this.list.copied(this.listed(from), rename);
  }

  private listed({ source, node }: At): At {
    const other = oraSource(source);
    this.taken.add(other);
    return { source: other.list, node };
  }

  roomBefore(node: number): Uint8Array {
    return this.list.roomBefore(node);
  }

  gap(parent: number, behind: number): Gap {
    return this.list.gap(parent, behind);
  }

  extent(node: number): readonly [number, number] {
    return this.list.extent(node);
  }

  free(key: string, taken: (key: string) => boolean): string {
    return this.list.free(key, taken);
  }

  /** Members that no layer names any more go; all others that are not named stay as they are packed. */
  async written(splices: readonly Splice[]): Promise<Uint8Array> {
    const coming = new Map<string, Uint8Array>();
    const used = new Set<string>();
    const list = this.renamed(this.list.written(splices), (name) => {
      const member = this.memberFor(name, coming);
      if (member !== undefined) used.add(member);
      return member;
    });
    const owned = new Set([...this.pixels.values()].map(({ member }) => member));
    const kept = this.packed.filter(({ name }) => !owned.has(name) || used.has(name));
    const members = [
      ...kept.map((m) => (m.name === LIST ? newMember(LIST, list) : m)),
      ...[...coming].map(([name, png]) => newMember(name, png)),
    ];
    return withWhole(members);
  }

  /** The member that pixels are in, which may come from another file. */
  private memberFor(name: string, coming: Map<string, Uint8Array>): string | undefined {
    const own = this.pixels.get(name);
    if (own) return own.member;
    for (const { pixels } of this.taken) {
      const found = pixels.get(name);
      if (!found) continue;
      const isTaken = (member: string): boolean => this.packed.some((m) => m.name === member) || coming.has(member);
      const before = [...coming].find(([, png]) => png === found.png)?.[0];
      const member = before ?? (isTaken(found.member) ? free(found.member, isTaken) : found.member);
      coming.set(member, found.png);
      return member;
    }
    return undefined;
  }
}

/** The picture as a whole, and a small one, as the layers now look together. */
async function withWhole(members: readonly PackedMember[]): Promise<Uint8Array> {
  const pictures = await engine('pictures');
  const seen = await (await pictures.openOra(zipOf(members))).compose();
  const drawn = new Map<string, Uint8Array>();
  drawn.set(WHOLE, await pictures.encodePng(seen));
  drawn.set(SMALL, await pictures.encodePng(seen, SMALL_SIDE));
  const there = new Set(members.map(({ name }) => name));
  return zipOf([
    ...members.map((m) => {
      const png = drawn.get(m.name);
      return png ? newMember(m.name, png) : m;
    }),
    ...[...drawn].filter(([name]) => !there.has(name)).map(([name, png]) => newMember(name, png)),
  ]);
}

const isLayer = (kind: string): boolean => kind === 'layer' || kind === 'stack';

function* elementsOf(root: XmlElement): Generator<XmlElement> {
  const pending = [root];
  for (let next = pending.pop(); next; next = pending.pop()) {
    yield next;
    for (const child of next.children) if (typeof child !== 'string') pending.push(child);
  }
}

function free(member: string, isTaken: (member: string) => boolean): string {
  const stem = member.replace(/(?:-\d+)?\.png$/i, '');
  let n = 2;
  while (isTaken(`${stem}-${n}.png`)) n++;
  return `${stem}-${n}.png`;
}

/** Pieces of one format are not written into files of another. */
function oraSource(source: Source): OraSource {
  if (source instanceof OraSource) return source;
  throw new Error(`a piece of ${source.format} cannot be written into a layered picture`);
}
