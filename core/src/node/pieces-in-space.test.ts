/** Bodies, groups and nodes of models carried over, taken back and joined, in every format that has no records. */
import './index.ts';
import { Document, WebIO } from '@gltf-transform/core';
import { block, cylinder, stlOf } from '../mesh/testing.ts';
import type { Mesh } from '../mesh/mesh.ts';
import { carryOver, compareFiles, joinFiles, open, takeBackChanges, type Content } from '../index.ts';

interface Body {
  readonly name: string;
  readonly mesh: Mesh;
}

const plate: Body = { name: 'plate', mesh: block([0, 0, 0], [80, 60, 8]) };
const thick: Body = { name: 'plate', mesh: block([0, 0, 0], [80, 60, 10]) };
const pin: Body = { name: 'pin', mesh: cylinder([200, 0, 0], 9, 40, 12) };
const cap: Body = { name: 'cap', mesh: block([0, 200, 0], [20, 20, 30]) };
const moved: Body = { name: 'cap', mesh: block([40, 200, 0], [20, 20, 30]) };

const text = (lines: readonly string[]): Uint8Array => new TextEncoder().encode(`${lines.join('\n')}\n`);
const triples = (list: ArrayLike<number>): number[][] =>
  Array.from({ length: list.length / 3 }, (_, k) => [0, 1, 2].map((n) => list[3 * k + n] as number));

function stlText(...bodies: readonly Body[]): Uint8Array {
  const facets = bodies.flatMap(({ mesh: { points, triangles } }) =>
    triples(triangles).map((corners) => {
      const said = corners.map((k) => `vertex ${[...points.subarray(3 * k, 3 * k + 3)].join(' ')}`);
      return `facet normal 0 0 1\n outer loop\n${said.join('\n')}\n endloop\nendfacet`;
    }),
  );
  return text(['solid landing', ...facets, 'endsolid landing']);
}

function obj(...bodies: readonly Body[]): Uint8Array {
  let before = 1;
  return text(
    bodies.flatMap(({ name, mesh }) => {
      const corners = triples(mesh.points);
      const first = before;
      before += corners.length;
      return [
        ...corners.map((corner) => `v ${corner.join(' ')}`),
        `g ${name}`,
        'usemtl steel',
        ...triples(mesh.triangles).map((face) => `f ${face.map((k) => k + first).join(' ')}`),
      ];
    }),
  );
}

async function gltfDocument(bodies: readonly Body[]): Promise<Document> {
  const document = new Document();
  const buffer = document.createBuffer();
  const scene = document.createScene('landing');
  const steel = document.createMaterial('steel').setBaseColorFactor([0.4, 0.4, 0.5, 1]);
  for (const { name, mesh } of bodies) {
    const primitive = document
      .createPrimitive()
      .setAttribute(
        'POSITION',
        document.createAccessor().setType('VEC3').setArray(Float32Array.from(mesh.points)).setBuffer(buffer),
      )
      .setIndices(document.createAccessor().setArray(Uint16Array.from(mesh.triangles)).setBuffer(buffer))
      .setMaterial(steel);
    scene.addChild(document.createNode(name).setMesh(document.createMesh(name).addPrimitive(primitive)));
  }
  return document;
}
const glb = async (...bodies: readonly Body[]): Promise<Uint8Array> =>
  new WebIO().writeBinary(await gltfDocument(bodies));
async function gltf(...bodies: readonly Body[]): Promise<Uint8Array> {
  const { json, resources } = await new WebIO().writeJSON(await gltfDocument(bodies), {});
  for (const buffer of json.buffers ?? []) {
    const numbers = resources[buffer.uri ?? ''] ?? new Uint8Array(0);
    buffer.uri = `data:application/octet-stream;base64,${Buffer.from(numbers).toString('base64')}`;
  }
  return text([JSON.stringify(json)]);
}

const formats = [
  ['stl', (...bodies: readonly Body[]) => Promise.resolve(stlOf(...bodies.map(({ mesh }) => mesh)))],
  ['text.stl', (...bodies: readonly Body[]) => Promise.resolve(stlText(...bodies))],
  ['obj', (...bodies: readonly Body[]) => Promise.resolve(obj(...bodies))],
  ['glb', glb],
  ['gltf', gltf],
] as const;

describe.each(formats)('of a model in %s', (ending, make) => {
  const opened = (bytes: Uint8Array): Promise<Content> => open(bytes, `landing.${ending}`);
  const made = async (...bodies: readonly Body[]): Promise<Content> => opened(await make(...bodies));
  const sentences = async (a: Content, b: Content): Promise<string[]> =>
    (await compareFiles(a, b)).comparison.causes.map(({ sentence }) => sentence);
  const partAt = ({ design }: Content, x: number, y: number): number =>
    design?.parts.findIndex(({ box }) => box && Math.abs(box[0] - x) < 0.5 && Math.abs(box[1] - y) < 0.5) ?? -1;

  test('one of two changes is taken back, the other stays', async () => {
    const [a, b] = [await made(plate, pin, cap), await made(thick, pin, moved)];
    const compared = await compareFiles(a, b);
    const changes = compared.comparison.changes.flatMap(({ kind }, k) => (kind === 'moved' ? [k] : []));
    expect(changes).not.toEqual([]);
    const back = await takeBackChanges(a, b, b, { compared, changes });
    const result = await opened(back.bytes);
    expect(await sentences(result, await made(thick, pin, cap))).toEqual([]);
    expect(await sentences(a, result)).toEqual(await sentences(a, await made(thick, pin, cap)));
  });

  test('a body that was deleted is carried over from the older version', async () => {
    const [older, newest] = [await made(plate, pin, cap), await made(thick, pin)];
    const place = ending.startsWith('gl') ? [0, -230] : [0, 200];
    const index = older.design?.parts.findIndex(({ name }) => name === 'cap') ?? -1;
    const part = index >= 0 ? index : partAt(older, place[0] as number, place[1] as number);
    const carried = await carryOver(older, newest, { parts: [part] });
    expect(carried.clashes).toEqual([]);
    expect(await sentences(await opened(carried.bytes), await made(thick, pin, cap))).toEqual([]);
  });

  test('what two people did to two of its bodies comes together', async () => {
    const base = await made(plate, pin, cap);
    const joined = await joinFiles(base, await made(thick, pin, cap), await made(plate, pin, moved));
    expect(joined.clashes).toEqual([]);
    expect(await sentences(await opened(joined.bytes), await made(thick, pin, moved))).toEqual([]);
  });
});

test('what nobody knows stays in a glTF file: extensions and cameras', async () => {
  const known = JSON.parse(new TextDecoder().decode(await gltf(plate, pin))) as {
    nodes: Record<string, unknown>[];
    [name: string]: unknown;
  };
  const own = {
    ...known,
    extensionsUsed: ['QUILL_tide'],
    extensions: { QUILL_tide: { table: [1, 2] } },
    cameras: [{ type: 'perspective', perspective: { yfov: 1, znear: 0.1 } }],
  };
  const ours = await open(text([JSON.stringify(own)]), 'landing.gltf');
  const theirs = await open(await gltf(plate, pin, cap), 'landing.gltf');
  const { bytes } = await carryOver(theirs, ours, { parts: [2] });
  const made = JSON.parse(new TextDecoder().decode(bytes)) as typeof own;
  expect(made).toMatchObject({ extensions: own.extensions, extensionsUsed: own.extensionsUsed, cameras: own.cameras });
  expect(made.nodes.map((node) => node['name'])).toEqual(['plate', 'pin', 'cap']);
});
