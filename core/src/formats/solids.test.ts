/** Readers of models: each says what there is, where it stands and what it is called; damage is said, and never trusted. */
import { Document, WebIO } from '@gltf-transform/core';
import { strToU8, zipSync } from 'fflate';
import { open } from '../kinds/content.ts';
import { measuresOf } from '../mesh/measure.ts';
import { unitedMesh } from '../mesh/mesh.ts';
import { block, cylinder, stlOf } from '../mesh/testing.ts';
import type { Solid } from '../model/solid.ts';

const plate = block([0, 0, 0], [80, 60, 8]);
const read = async (bytes: Uint8Array, name: string): Promise<Solid> => {
  const content = await open(bytes, name);
  expect([content.kinds[0], content.problem]).toEqual(['solid', undefined]);
  return content.design as Solid;
};
const problem = async (bytes: Uint8Array, name: string): Promise<string> => {
  const content = await open(bytes, name);
  expect(content.kinds[0]).not.toBe('solid');
  return content.problem?.sentence ?? '';
};
const volumeOf = (solid: Solid): number => measuresOf(unitedMesh(solid.meshes))!.volume;

const faces = (index: (point: number) => number | string): string[] =>
  Array.from({ length: 12 }, (_, t) => [0, 1, 2].map((k) => index(plate.triangles[3 * t + k]!)).join(' '));
const corners = Array.from({ length: 8 }, (_, k) => [...plate.points.subarray(3 * k, 3 * k + 3)].join(' '));

describe('STL', () => {
  const text = (end = 'endsolid plate\n'): Uint8Array => {
    const lines = ['solid plate'];
    for (let t = 0; t < 12; t++) {
      lines.push('facet normal 0 0 0', 'outer loop');
      for (let k = 0; k < 3; k++) lines.push(`vertex ${corners[plate.triangles[3 * t + k]!]}`);
      lines.push('endloop', 'endfacet');
    }
    return strToU8(`${lines.join('\n')}\n${end}`);
  };

  test('as bytes and as text it is the same closed body', async () => {
    for (const solid of [await read(stlOf(plate), 'plate.stl'), await read(text(), 'plate.stl')]) {
      expect(solid.parts.map(({ kind, box, space }) => [kind, box, space?.rise])).toEqual([
        ['body', [0, 0, 80, 60], [0, 8]],
      ]);
      expect(volumeOf(solid)).toBeCloseTo(38_400, 6);
    }
  });

  test('a heap of triangles is told apart into its bodies', async () => {
    const solid = await read(stlOf(plate, cylinder([200, 0, 0], 5, 40, 24)), 'both.stl');
    expect(solid.parts.map(({ name }) => name)).toEqual(['body 1', 'body 2']);
  });

  test('what is cut off is read as far as it goes, and said', async () => {
    const cut = await read(stlOf(plate).subarray(0, 84 + 50 * 7 + 20), 'plate.stl');
    expect(cut.notes).toEqual(['The model is cut off: it says 12 triangles, and 7 are there.']);
    expect((await read(text(''), 'plate.stl')).notes).toEqual(['The model is cut off: its end is missing.']);
  });

  test('a place that is no number, and a file without a triangle, are refused with a sentence', async () => {
    const bytes = stlOf(plate);
    new DataView(bytes.buffer).setFloat32(84 + 12, NaN, true);
    expect(await problem(bytes, 'plate.stl')).toContain('stands nowhere');
    expect(await problem(strToU8('solid nothing\nendsolid nothing\n'), 'nothing.stl')).toContain('no triangle');
  });
});

describe('OBJ', () => {
  const obj = (...more: readonly string[]): Uint8Array =>
    strToU8(
      [
        'o plate',
        ...corners.map((corner) => `v ${corner}`),
        ...faces((p) => p + 1).map((face) => `f ${face}`),
        ...more,
        '',
      ].join('\n'),
    );

  test('groups are parts with their names and materials; faces may count from the end', async () => {
    const solid = await read(
      obj('usemtl steel', 'o flag', 'v 0 0 20', 'v 9 0 20', 'v 9 0 29', 'v 0 0 29', 'f -4 -3 -2 -1'),
      'plate.obj',
    );
    expect(solid.parts.map(({ name, category }) => [name, category])).toEqual([
      ['plate', ''],
      ['flag', 'steel'],
    ]);
    expect(solid.meshes[1]?.triangles).toHaveLength(6);
  });

  test('a face that names a point that is not there is refused', async () =>
    expect(await problem(obj('f 1 2 99'), 'plate.obj')).toBe('A face names the point 99, which is not there.'));
});

describe('PLY', () => {
  const head = (format: string, count = 12): string =>
    [
      'ply',
      `format ${format} 1.0`,
      'comment made by a scanner',
      'element vertex 8',
      'property float x',
      'property float y',
      'property float z',
      'property uchar red',
      `element face ${count}`,
      'property list uchar int vertex_indices',
      'end_header',
      '',
    ].join('\n');
  const binary = (little: boolean): Uint8Array => {
    const body = new DataView(new ArrayBuffer(8 * 13 + 12 * 13));
    for (let k = 0; k < 8; k++)
      for (let axis = 0; axis < 3; axis++) body.setFloat32(13 * k + 4 * axis, plate.points[3 * k + axis]!, little);
    for (let t = 0; t < 12; t++) {
      body.setUint8(104 + 13 * t, 3);
      for (let k = 0; k < 3; k++) body.setInt32(105 + 13 * t + 4 * k, plate.triangles[3 * t + k]!, little);
    }
    const text = strToU8(head(`binary_${little ? 'little' : 'big'}_endian`));
    return Uint8Array.from([...text, ...new Uint8Array(body.buffer)]);
  };
  const ascii = (count = 12): Uint8Array =>
    strToU8(
      `${head('ascii', count)}${corners.map((corner) => `${corner} 200`).join('\n')}\n${faces((p) => p)
        .map((face) => `3 ${face}`)
        .join('\n')}\n`,
    );

  test.each([
    ['text', ascii()],
    ['bytes, the low one first', binary(true)],
    ['bytes, the high one first', binary(false)],
  ])('%s', async (_, bytes) => {
    const solid = await read(bytes, 'plate.ply');
    expect(volumeOf(solid)).toBeCloseTo(38_400, 6);
    expect(solid.origin.program).toBe('made by a scanner');
  });

  test('one that ends before what its head says is refused', async () => {
    expect(await problem(ascii(13), 'plate.ply')).toContain('it ends before what its head says');
    expect(await problem(binary(true).subarray(0, 300), 'plate.ply')).toContain('it ends before what its head says');
  });
});

describe('3MF', () => {
  const pack = (inside: string, unit = 'millimeter'): Uint8Array =>
    zipSync({
      '3D/3dmodel.model': strToU8(
        `<model unit="${unit}" xmlns="http://schemas.microsoft.com/3dmanufacturing/core/2015/02"><metadata name="Application">Quillmere slicer</metadata>${inside}</model>`,
      ),
    });
  const mesh = `<mesh><vertices>${corners
    .map((corner) => corner.split(' '))
    .map(([x, y, z]) => `<vertex x="${x}" y="${y}" z="${z}"/>`)
    .join('')}</vertices><triangles>${faces((p) => p)
    .map((face) => face.split(' '))
    .map(([a, b, c]) => `<triangle v1="${a}" v2="${b}" v3="${c}"/>`)
    .join('')}</triangles></mesh>`;

  test('objects within objects stand where they are placed, in the unit that is said', async () => {
    const solid = await read(
      pack(
        `<resources><object id="1" name="cap">${mesh}</object><object id="2" name="pair"><components><component objectid="1"/><component objectid="1" transform="1 0 0 0 1 0 0 0 1 0 0 30"/></components></object></resources><build><item objectid="2" transform="1 0 0 0 1 0 0 0 1 500 0 0"/></build>`,
        'inch',
      ),
      'caps.3mf',
    );
    expect(solid.origin).toEqual({ units: 'in', program: 'Quillmere slicer' });
    expect(solid.pages[0]?.unitMillimetres).toBe(25.4);
    expect(solid.parts.map(({ box, space, parents }) => [box, space?.rise, parents])).toEqual([
      [[500, 0, 580, 60], [0, 8], ['pair']],
      [[500, 0, 580, 60], [30, 38], ['pair']],
    ]);
    expect(solid.definitions).toHaveLength(1);
  });

  test('objects that stand within themselves, a bomb of components, and entities are refused', async () => {
    const circle = pack(
      '<resources><object id="1"><components><component objectid="1"/></components></object></resources><build><item objectid="1"/></build>',
    );
    expect(await problem(circle, 'a.3mf')).toBe('Objects stand within one another without an end.');
    const levels = Array.from(
      { length: 30 },
      (_, k) =>
        `<object id="${k + 2}"><components>${'<component objectid="?"/>'.replace('?', String(k + 1)).repeat(10)}</components></object>`,
    );
    const bomb = pack(
      `<resources><object id="1">${mesh}</object>${levels.join('')}</resources><build><item objectid="31"/></build>`,
    );
    expect(await problem(bomb, 'b.3mf')).toContain('more placements');
    expect(
      await problem(zipSync({ '3D/3dmodel.model': strToU8('<!DOCTYPE model [<!ENTITY a "b">]><model/>') }), 'c.3mf'),
    ).toContain('document type');
  });
});

describe('glTF', () => {
  async function made(): Promise<Uint8Array> {
    const document = new Document();
    const buffer = document.createBuffer();
    const accessor = (type: 'VEC3' | 'SCALAR', array: Float32Array<ArrayBuffer> | Uint32Array<ArrayBuffer>) =>
      document.createAccessor().setType(type).setArray(array).setBuffer(buffer);
    const primitive = document
      .createPrimitive()
      .setAttribute('POSITION', accessor('VEC3', Float32Array.from(plate.points)))
      .setIndices(accessor('SCALAR', Uint32Array.from(plate.triangles)))
      .setMaterial(document.createMaterial('oak').setBaseColorFactor([1, 0.25, 0, 1]));
    const mesh = document.createMesh('board').addPrimitive(primitive);
    const post = document
      .createNode('sign post')
      .setTranslation([0, 10, 0])
      .addChild(document.createNode('upper board').setMesh(mesh).setTranslation([0, 100, 0]));
    const scene = document.createScene().addChild(post).addChild(document.createNode('lower board').setMesh(mesh));
    document.getRoot().setDefaultScene(scene);
    return new WebIO().writeBinary(document);
  }

  test('nodes are parts in their tree, with z up; a mesh of two nodes is a definition', async () => {
    const solid = await read(await made(), 'post.glb');
    expect(solid.parts.map(({ name, parents, box, space }) => [name, parents, box, space?.rise])).toEqual([
      ['upper board', ['sign post'], [0, -8, 80, 0], [110, 170]],
      ['lower board', [], [0, -8, 80, 0], [0, 60]],
    ]);
    expect(solid.definitions.map(({ name }) => name)).toEqual(['board']);
    expect(solid.parts[0]?.props).toEqual({ name: 'upper board', material: 'oak', colour: '#ff8000' });
    expect(solid.pages[0]?.unitMillimetres).toBe(1000);
  });

  test('what the library would believe is refused: a billion points, circles, numbers elsewhere, half a file', async () => {
    const gltf = (more: object): Uint8Array => strToU8(JSON.stringify({ asset: { version: '2.0' }, ...more }));
    expect(await problem(gltf({ accessors: [{ count: 1e9 }] }), 'a.gltf')).toContain('more points');
    expect(await problem(gltf({ nodes: [{ children: [1] }, { children: [0] }] }), 'b.gltf')).toContain('in a circle');
    expect(await problem(gltf({ buffers: [{ uri: 'post.bin', byteLength: 4 }] }), 'c.gltf')).toContain(
      'in another file',
    );
    const whole = await made();
    expect(await problem(whole.subarray(0, whole.length - 40), 'd.glb')).toContain('cut off');
  });
});
