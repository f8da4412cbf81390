/** A glTF model as it is written: its nodes that show something. What nobody names stays as it is, extensions too. */
import { concat } from '../../bytes/concat.ts';
import { hashBytes, hashText } from '../../geometry/hash.ts';
import type { Limits } from '../../model/limits.ts';
import { ReadError } from '../../model/problem.ts';
import type { Fields, Source } from '../../model/source.ts';
import { kept, PiecedSource, type Piece, type PieceOf, type WantedPiece } from '../shared/pieced-source.ts';
import { filledLength, madeContainer, openContainer, type Container, type Described } from './container.ts';
import { extensionsIn, withLinks, type Json, type List } from './links.ts';

/** Properties of a node that are fields of their own. */
const PLACE = ['matrix', 'translation', 'rotation', 'scale'] as const;
/** Ways to make faces of points begin here (glTF 2.0, 5.24.4). */
const TRIANGLES = 4;

interface Node {
  name?: string;
  mesh?: number;
  children?: number[];
  [property: string]: Json | undefined;
}

/** Throws ReadError for what is no glTF model. */
export function sourceOfGltf(bytes: Uint8Array, limits: Limits): Source {
  if (bytes.length > limits.bytes)
    throw new ReadError('The model is larger than Ovrel looks into.', undefined, 'too-large');
  return new GltfSource(openContainer(bytes));
}

const nodesOf = (description: Described): Node[] => (description['nodes'] ?? []) as unknown as Node[];
const listOf = (description: Described, list: List): Json[] => (description[list] ?? []) as Json[];

/** What is shown, and in which order: as the reader goes through it. */
class Scene {
  readonly shown: number[] = [];
  readonly parents = new Map<number, number>();
  private readonly description: Described;

  constructor(description: Described) {
    this.description = description;
    for (const node of this.roots()) this.walk(node, 0);
  }

  roots(): readonly number[] {
    const scenes = (this.description['scenes'] ?? []) as unknown as { nodes?: number[] }[];
    return scenes[Number(this.description['scene'] ?? 0)]?.nodes ?? [];
  }

  private walk(node: number, depth: number): void {
    const { mesh, children = [] } = nodesOf(this.description)[node] ?? {};
    if (depth > 1000) throw new ReadError('The nodes of this model stand within one another in a circle.');
    if (mesh !== undefined && this.hasFaces(mesh)) this.shown.push(node);
    for (const child of children) {
      this.parents.set(child, node);
      this.walk(child, depth + 1);
    }
  }

  private hasFaces(mesh: number): boolean {
    const { primitives = [] } = (listOf(this.description, 'meshes')[mesh] ?? {}) as {
      primitives?: { mode?: number; attributes?: Record<string, number> }[];
    };
    return primitives.some(
      ({ mode = TRIANGLES, attributes }) => mode >= TRIANGLES && attributes?.['POSITION'] !== undefined,
    );
  }
}

class GltfSource extends PiecedSource {
  readonly format = 'gltf';
  private readonly container: Container;
  private readonly scene: Scene;

  constructor(container: Container) {
    const scene = new Scene(container.description);
    const prints = new Prints(container);
    super(scene.shown.map((node) => pieceOf(container.description, scene, prints, node)));
    this.container = container;
    this.scene = scene;
  }

  override nodeOf(_span: readonly [number, number], index: number): number {
    return index < this.pieces.length ? index + 1 : -1;
  }

  override free(key: string, taken: (key: string) => boolean): string {
    for (let n = 2; ; n++) if (!taken(`${key} ${n}`)) return `${key} ${n}`;
  }

  protected made(wanted: readonly WantedPiece<this>[]): Uint8Array {
    const making = new Making(this.container);
    const kept = new Map(wanted.filter(({ source }) => source === this).map((piece) => [piece.piece, piece]));
    this.scene.shown.forEach((node, piece) => {
      const own = kept.get(piece);
      if (!own) making.takeOut(node);
      else for (const [field, at] of own.fields) making.change(node, field, this.nodeAt(at), at.source.container);
    });
    for (const piece of wanted) if (piece.source !== this) this.put(making, piece);
    return making.made();
  }

  private nodeAt({ source, piece }: PieceOf<this>): number {
    return source.scene.shown[piece] ?? -1;
  }

  private put(making: Making, { source, piece }: WantedPiece<this>): void {
    const node = source.scene.shown[piece] ?? -1;
    const parent = source.scene.parents.get(node);
    const name = parent === undefined ? undefined : nodesOf(source.container.description)[parent]?.name;
    if (parent !== undefined && making.nodeCalled(name) === undefined)
      throw new ReadError(
        `“${nodesOf(source.container.description)[node]?.name ?? 'A node'}” stands within ${name === undefined ? 'a node without a name' : `“${name}”`}, which is not in this model.`,
        undefined,
        'unsupported',
      );
    making.put(source.container, node, making.nodeCalled(name));
  }
}

function pieceOf(description: Described, { parents }: Scene, prints: Prints, node: number): Piece {
  const { name, mesh = -1, children: _, ...rest } = nodesOf(description)[node] ?? {};
  const parent = parents.get(node);
  const said = (): Fields => {
    const within = parent === undefined ? '' : (nodesOf(description)[parent]?.name ?? `node ${parent}`);
    const found = new Map([
      ['place', JSON.stringify([...PLACE.map((property) => rest[property] ?? null), within])],
      ['mesh', prints.of('meshes', mesh)],
    ]);
    if (name !== undefined) found.set('name', name);
    for (const [property, value] of Object.entries(rest))
      if (!PLACE.some((one) => one === property)) found.set(`own ${property}`, JSON.stringify(value));
    return found;
  };
  return { key: name ?? `node ${node}`, needs: [], start: node, fields: kept(said) };
}

/** What an object says with all that it refers to. */
class Prints {
  private readonly container: Container;
  private readonly known = new Map<string, string>();

  constructor(container: Container) {
    this.container = container;
  }

  of(list: List, place: number): string {
    const name = `${list} ${place}`;
    const known = this.known.get(name);
    if (known !== undefined) return known;
    this.known.set(name, '…');
    const made = this.made(list, place);
    this.known.set(name, made);
    return made;
  }

  private made(list: List, place: number): string {
    const value = listOf(this.container.description, list)[place];
    if (value === undefined) return '';
    if (list === 'bufferViews') return hashBytes(bytesOfView(this.container, value));
    const { name: _, ...said } = value as Record<string, Json>;
    return hashText(JSON.stringify(withLinks(list, list === 'materials' ? value : said, (to, at) => this.of(to, at))));
  }
}

function bytesOfView(container: Container, view: Json): Uint8Array {
  const { buffer = -1, byteOffset = 0, byteLength = 0 } = view as Record<string, number>;
  return container.buffer(buffer).subarray(byteOffset, byteOffset + byteLength);
}

/** A description that is changed, and the numbers that come in. */
class Making {
  private readonly container: Container;
  private readonly description: Described;
  private readonly brought = new Map<Container, Map<string, number>>();
  private readonly numbers: Uint8Array[] = [];
  private readonly gone = new Set<number>();
  private length: number;
  private readonly start: number;

  constructor(container: Container) {
    this.description = structuredClone(container.description);
    this.container = { ...container, description: this.description };
    this.start = container.isBinary ? filledLength(container.buffer(0).length) : 0;
    this.length = this.start;
  }

  nodeCalled(name: string | undefined): number | undefined {
    if (name === undefined) return undefined;
    const found = nodesOf(this.description).findIndex((node, k) => node.name === name && !this.gone.has(k));
    return found < 0 ? undefined : found;
  }

  /** What stands within it stays. */
  takeOut(node: number): void {
    const own = nodesOf(this.description)[node];
    if (!own) return;
    delete own.mesh;
    if (!own.children?.length && !this.isNeeded(node)) this.gone.add(node);
  }

  /** Bones and what moves are named by skins and animations. */
  private isNeeded(node: number): boolean {
    const skins = (this.description['skins'] ?? []) as unknown as { joints?: number[]; skeleton?: number }[];
    const animations = (this.description['animations'] ?? []) as unknown as {
      channels?: { target?: { node?: number } }[];
    }[];
    return (
      skins.some(({ joints = [], skeleton }) => skeleton === node || joints.includes(node)) ||
      animations.some(({ channels = [] }) => channels.some(({ target }) => target?.node === node))
    );
  }

  change(node: number, field: string, from: number, other: Container): void {
    const own = nodesOf(this.description)[node];
    const theirs = nodesOf(other.description)[from];
    if (!own || !theirs) return;
    if (field === 'mesh') own.mesh = this.bring('meshes', theirs.mesh ?? -1, other);
    else {
      const properties = field === 'place' ? PLACE : [field.replace(/^own /, '')];
      for (const property of properties)
        if (theirs[property] === undefined) Reflect.deleteProperty(own, property);
        else own[property] = theirs[property];
    }
  }

  put(other: Container, node: number, parent: number | undefined): void {
    const { mesh = -1, children: _, ...rest } = nodesOf(other.description)[node] ?? {};
    const nodes = nodesOf(this.description);
    nodes.push({ ...rest, mesh: this.bring('meshes', mesh, other) });
    const holder = parent === undefined ? this.scene() : nodes[parent];
    const list = parent === undefined ? 'nodes' : 'children';
    if (holder) holder[list] = [...((holder[list] ?? []) as number[]), nodes.length - 1];
  }

  private scene(): Record<string, Json | undefined> | undefined {
    const scenes = (this.description['scenes'] ?? []) as unknown as Record<string, Json | undefined>[];
    return scenes[Number(this.description['scene'] ?? 0)];
  }

  /** The place here of an object of another file, with all that it refers to. */
  private bring(list: List, place: number, other: Container): number {
    const brought = this.brought.get(other) ?? new Map<string, number>();
    this.brought.set(other, brought);
    const known = brought.get(`${list} ${place}`);
    if (known !== undefined) return known;
    const value = listOf(other.description, list)[place];
    if (value === undefined) throw new ReadError('A node of the model names something that is not there.');
    const here = listOf(this.description, list);
    this.description[list] = here;
    this.useExtensions(value, other);
    const made =
      list === 'bufferViews' ? this.view(value, other) : withLinks(list, value, (to, at) => this.bring(to, at, other));
    here.push(made);
    brought.set(`${list} ${place}`, here.length - 1);
    return here.length - 1;
  }

  private useExtensions(value: Json, other: Container): void {
    const used = new Set(extensionsIn(value));
    for (const list of ['extensionsUsed', 'extensionsRequired']) {
      const own = (this.description[list] ?? []) as readonly string[];
      const theirs = (other.description[list] ?? []) as readonly string[];
      const more = theirs.filter((name) => used.has(name) && !own.includes(name));
      if (more.length > 0) this.description[list] = [...own, ...more];
    }
  }

  private view(view: Json, other: Container): Json {
    const bytes = bytesOfView(other, view);
    const byteOffset = this.length;
    this.numbers.push(bytes, new Uint8Array(filledLength(bytes.length) - bytes.length));
    this.length += filledLength(bytes.length);
    const buffers = listOf(this.description, 'buffers');
    // Of a binary file the first one; else one that is put behind those that there are.
    const buffer = this.container.isBinary ? 0 : buffers.length;
    return { ...(view as Record<string, Json>), buffer, byteOffset };
  }

  made(): Uint8Array {
    const added = concat(this.numbers);
    if (added.length > 0) this.addBuffer(added);
    this.dropNodes();
    return madeContainer(this.container, added);
  }

  private addBuffer(added: Uint8Array): void {
    const buffers = listOf(this.description, 'buffers');
    this.description['buffers'] = buffers;
    if (!this.container.isBinary) {
      const letters = Array.from(added, (byte) => String.fromCharCode(byte)).join('');
      buffers.push({ byteLength: added.length, uri: `data:application/octet-stream;base64,${btoa(letters)}` });
      return;
    }
    const [own = {}] = buffers as Record<string, Json>[];
    buffers[0] = { ...own, byteLength: this.length };
  }

  /** Nodes are named by their places: those behind one that goes are named anew. */
  private dropNodes(): void {
    if (this.gone.size === 0) return;
    const nodes = nodesOf(this.description);
    const places = new Map<number, number>();
    nodes.forEach((_, node) => {
      if (!this.gone.has(node)) places.set(node, places.size);
    });
    const moved = (list: unknown): number[] => ((list ?? []) as number[]).flatMap((node) => places.get(node) ?? []);
    const all = (name: string): Record<string, unknown>[] =>
      (this.description[name] ?? []) as unknown as Record<string, unknown>[];
    for (const node of nodes) if (node.children) node.children = moved(node.children);
    for (const scene of all('scenes')) if (scene['nodes']) scene['nodes'] = moved(scene['nodes']);
    for (const skin of all('skins')) {
      skin['joints'] = moved(skin['joints']);
      if (skin['skeleton'] !== undefined) skin['skeleton'] = places.get(skin['skeleton'] as number);
    }
    for (const animation of all('animations'))
      for (const channel of (animation['channels'] ?? []) as { target?: { node?: number } }[])
        if (channel.target?.node !== undefined) channel.target.node = places.get(channel.target.node) ?? 0;
    this.description['nodes'] = nodes.filter((_, node) => !this.gone.has(node)) as unknown as Json;
    // A list of nodes without children is not allowed.
    for (const node of nodesOf(this.description)) if (node.children?.length === 0) delete node.children;
  }
}
