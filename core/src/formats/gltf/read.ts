/** glTF 2.0: nodes in a tree, each with a mesh that others may have, too. y is up in the file; its unit is the metre. */
import { Logger, WebIO, type Document, type Mesh as GltfMesh, type Node, type Primitive } from '@gltf-transform/core';
import { unitedMesh, type Mesh } from '../../mesh/mesh.ts';
import { placedMesh, placedWithin, type Placing } from '../../mesh/placing.ts';
import { weldedMesh } from '../../mesh/weld.ts';
import type { Scalar } from '../../model/design.ts';
import type { Limits } from '../../model/limits.ts';
import { ReadError } from '../../model/problem.ts';
import type { Solid } from '../../model/solid.ts';
import { SolidBuilder } from '../shared/solid-builder.ts';

/** y up becomes z up. */
const Z_UP: Placing = [1, 0, 0, 0, 0, 0, 1, 0, 0, -1, 0, 0, 0, 0, 0, 1];
export const MAGIC = 0x46546c67;
export const JSON_CHUNK = 0x4e4f534a;
/** Bytes before the description. */
export const HEAD = 20;
/** Ways to make faces of points (glTF 2.0, 5.24.4); what is less are points and lines. */
const TRIANGLES = 4;
const TRIANGLE_FAN = 6;

interface GltfJson {
  readonly asset?: { readonly version?: string; readonly generator?: string };
  readonly buffers?: readonly { readonly uri?: string }[];
  readonly accessors?: readonly { readonly count?: number }[];
  readonly nodes?: readonly { readonly children?: readonly number[] }[];
}

/** Of a binary file, or of one in JSON whose numbers stand in it. Throws ReadError with a sentence. */
export async function readGltf(bytes: Uint8Array, limits: Limits): Promise<Solid> {
  if (bytes.length > limits.bytes)
    throw new ReadError('The model is larger than Ovrel looks into.', undefined, 'too-large');
  const isBinary = bytes.length >= 4 && viewOf(bytes).getUint32(0, true) === MAGIC;
  const json = isBinary ? jsonOf(bytes) : parsed(bytes, 0);
  refuseStrange(json, limits);
  const document = await documentOf(bytes, isBinary, json);
  const builder = new SolidBuilder(limits);
  new Walk(document, builder).run();
  const { generator, version } = json.asset ?? {};
  const program = generator ? { program: generator } : {};
  const formatVersion = version ? { formatVersion: version } : {};
  return builder.finish('gltf', { units: 'm', ...program, ...formatVersion }, { unitMillimetres: 1000 });
}

const viewOf = (bytes: Uint8Array): DataView => new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);

/** The description of a binary file, which stands first (glTF 2.0, 4.4). */
function jsonOf(bytes: Uint8Array): GltfJson {
  if (bytes.length < HEAD) throw new ReadError('The model ends before it says what is in it.', bytes.length);
  const view = viewOf(bytes);
  if (view.getUint32(8, true) > bytes.length)
    throw new ReadError('The model is cut off: it is shorter than it says.', bytes.length);
  const length = view.getUint32(12, true);
  if (view.getUint32(16, true) !== JSON_CHUNK || HEAD + length > bytes.length)
    throw new ReadError('The model does not say what is in it.', 12);
  return parsed(bytes.subarray(HEAD, HEAD + length), HEAD);
}

function parsed(bytes: Uint8Array, at: number): GltfJson {
  try {
    return JSON.parse(new TextDecoder().decode(bytes)) as GltfJson;
  } catch {
    throw new ReadError('The model is no glTF that can be read: its description is broken.', at);
  }
}

/** What the library would believe: counts without end, nodes within themselves, numbers that stand elsewhere. */
function refuseStrange({ buffers = [], accessors = [], nodes = [] }: GltfJson, limits: Limits): void {
  if (buffers.some(({ uri }) => uri !== undefined && !uri.startsWith('data:')))
    throw new ReadError('The numbers of this model stand in another file.', undefined, 'missing');
  const count = accessors.reduce((sum, accessor) => sum + (Number(accessor.count) || 0), 0);
  if (count > limits.points)
    throw new ReadError('The model has more points than Ovrel looks into.', undefined, 'too-large');
  const held = new Set<number>();
  for (const child of nodes.flatMap(({ children = [] }) => children)) {
    if (held.has(child)) throw new ReadError('A node of this model stands within two others.');
    held.add(child);
  }
  if (nodes.length > 0 && held.size === nodes.length)
    throw new ReadError('The nodes of this model stand within one another in a circle.');
}

async function documentOf(bytes: Uint8Array, isBinary: boolean, json: GltfJson): Promise<Document> {
  const io = new WebIO().setLogger(new Logger(Logger.Verbosity.SILENT));
  try {
    if (isBinary) return await io.readBinary(Uint8Array.from(bytes));
    return await io.readJSON({ json, resources: {} } as unknown as Parameters<WebIO['readJSON']>[0]);
  } catch (error) {
    throw new ReadError(`The model is no glTF that can be read: ${(error as Error).message}.`);
  }
}

/** Goes through the nodes of the scene that is shown. */
class Walk {
  private readonly document: Document;
  private readonly builder: SolidBuilder;
  private readonly uses = new Map<GltfMesh, number>();
  private readonly definitions = new Map<GltfMesh, number>();
  private readonly surfaces = new Map<GltfMesh, Mesh>();
  private leftOut = 0;

  constructor(document: Document, builder: SolidBuilder) {
    this.document = document;
    this.builder = builder;
  }

  run(): void {
    const root = this.document.getRoot();
    const scene = root.getDefaultScene() ?? root.listScenes()[0];
    const nodes = scene?.listChildren() ?? [];
    for (const node of root.listNodes()) {
      const mesh = node.getMesh();
      if (mesh) this.uses.set(mesh, (this.uses.get(mesh) ?? 0) + 1);
    }
    for (const node of nodes) this.node(node, []);
    if (this.leftOut > 0) this.builder.notes.push('Its lines and points are not looked at, only its faces.');
  }

  private node(node: Node, parents: readonly string[]): void {
    const mesh = node.getMesh();
    const name = node.getName() || mesh?.getName() || 'node';
    if (mesh) this.part(node, mesh, name, parents);
    for (const child of node.listChildren()) this.node(child, [...parents, name]);
  }

  private part(node: Node, mesh: GltfMesh, name: string, parents: readonly string[]): void {
    const surface = this.surfaceOf(mesh);
    if (surface.triangles.length === 0) return;
    const placing = placedWithin(Z_UP, node.getWorldMatrix());
    const given = {
      kind: 'node',
      name,
      parents,
      category: parents[0] ?? '',
      props: propsOf(node, mesh),
      key: node.getName() || undefined,
    };
    if ((this.uses.get(mesh) ?? 0) < 2) {
      this.builder.add(given, placedMesh(surface, placing));
      return;
    }
    const called = mesh.getName() || name;
    const known = this.definitions.get(mesh) ?? this.builder.define('mesh', called, called, surface);
    this.definitions.set(mesh, known);
    this.builder.place(given, known, placing);
  }

  private surfaceOf(mesh: GltfMesh): Mesh {
    const known = this.surfaces.get(mesh);
    if (known) return known;
    const pieces = mesh.listPrimitives().flatMap((primitive): Mesh[] => {
      if (primitive.getMode() < TRIANGLES) this.leftOut++;
      return surfaceOfPrimitive(primitive);
    });
    const surface = weldedMesh(unitedMesh(pieces));
    this.surfaces.set(mesh, surface);
    return surface;
  }
}

function surfaceOfPrimitive(primitive: Primitive): Mesh[] {
  const places = primitive.getAttribute('POSITION');
  if (!places || primitive.getMode() < TRIANGLES) return [];
  const count = places.getCount();
  const points = new Float64Array(3 * count);
  for (let k = 0; k < count; k++) points.set(places.getElement(k, [0, 0, 0]), 3 * k);
  const indices = primitive.getIndices();
  const order = Array.from({ length: indices?.getCount() ?? count }, (_, k) => indices?.getScalar(k) ?? k);
  if (order.some((point) => point >= count))
    throw new ReadError('A face of this model names a point that is not there.');
  return [{ points, triangles: Uint32Array.from(trianglesOf(order, primitive.getMode())) }];
}

/** Strips and fans as triangles (glTF 2.0, 3.7.2.1). */
function trianglesOf(order: readonly number[], mode: number): number[] {
  if (mode === TRIANGLES) return order.slice(0, 3 * Math.floor(order.length / 3));
  const out: number[] = [];
  for (let k = 2; k < order.length; k++) {
    const [p, q, r] = [order[k - 2] as number, order[k - 1] as number, order[k] as number];
    if (mode === TRIANGLE_FAN) out.push(order[0] as number, q, r);
    else out.push(...(k % 2 === 0 ? [p, q, r] : [q, p, r]));
  }
  return out;
}

const inHex = (value: number): string =>
  Math.round(255 * Math.sqrt(Math.min(1, Math.max(0, value))))
    .toString(16)
    .padStart(2, '0');

function propsOf(node: Node, mesh: GltfMesh): Record<string, Scalar> {
  const materials = [...new Set(mesh.listPrimitives().flatMap((primitive) => primitive.getMaterial() ?? []))];
  const [material] = materials;
  const said = Object.entries(node.getExtras()).filter((entry): entry is [string, Scalar] =>
    ['string', 'number', 'boolean'].includes(typeof entry[1]),
  );
  return {
    ...(node.getName() ? { name: node.getName() } : {}),
    ...(material ? { material: materials.map((one) => one.getName() || 'unnamed').join(', ') } : {}),
    // Colours are kept in light, not as they look: the square root is near enough.
    ...(material ? { colour: `#${material.getBaseColorFactor().slice(0, 3).map(inHex).join('')}` } : {}),
    ...Object.fromEntries(said),
  };
}
