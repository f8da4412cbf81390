/** Models compared as people do it: files in, sentences out. */
import './index.ts';
import { Document, WebIO } from '@gltf-transform/core';
import { strToU8, zipSync } from 'fflate';
import type { ManifoldToplevel } from 'manifold-3d';
import { compareFiles, open, type Content } from '../index.ts';
import type { Comparison } from '../contract/comparison.ts';
import type { Mesh } from '../mesh/mesh.ts';
import { placedMesh, type Placing } from '../mesh/placing.ts';
import { block, cylinder, stlOf } from '../mesh/testing.ts';
import { engine } from '../model/engines.ts';

const plate = block([0, 0, 0], [80, 60, 8]);
const shifted = (x: number, y: number, z: number): Placing => [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, x, y, z, 1];

let manifold: ManifoldToplevel;
beforeAll(async () => {
  manifold = await engine('manifold');
});

/** The plate with a round hole through it. */
function bored(radius: number, [x, y]: readonly [number, number]): Mesh {
  const { Manifold } = manifold;
  const body = Manifold.cube([80, 60, 8]).subtract(Manifold.cylinder(20, radius, radius, 48).translate([x, y, -5]));
  const { vertProperties, triVerts } = body.getMesh();
  return { points: Float64Array.from(vertProperties), triangles: triVerts.slice() };
}

const stl = (name: string, ...meshes: readonly Mesh[]): Promise<Content> => open(stlOf(...meshes), `${name}.stl`);
async function compared(a: Promise<Content>, b: Promise<Content>): Promise<Comparison> {
  return (await compareFiles(await a, await b)).comparison;
}
const sentences = async (a: Promise<Content>, b: Promise<Content>): Promise<string[]> =>
  (await compared(a, b)).causes.map(({ sentence }) => sentence);

describe('one body', () => {
  test('a drilled hole is named with its diameter, axis, volume and place', async () => {
    const found = await compared(stl('plate', plate), stl('bored', bored(3, [20, 30])));
    expect(found.level).toBe('solid');
    expect(found.causes.map(({ sentence }) => sentence)).toEqual([
      expect.stringMatching(/^Hole made: ⌀ 6, 8 deep, along z, 225\.\d cubic units, at \(20, 30, 4\)$/),
    ]);
    expect(found.measures).toMatchObject({ closed: [true, true], bodies: [1, 1] });
    expect(found.measures!.volume[0] - found.measures!.volume[1]).toBeCloseTo(225.5, 1);
    const hole = found.changes.find(({ material }) => material);
    expect(hole).toMatchObject({ boxB: [17, 27, 23, 33], zB: [0, 8], material: { diameter: 6 } });
    expect(hole!.material!.volume).toBeCloseTo(-225.5, 1);
  });

  test('a hole that was moved is filled there and made here; one that was filled is said so', async () => {
    expect(await sentences(stl('a', bored(3, [20, 30])), stl('b', bored(3, [50, 30])))).toEqual([
      expect.stringContaining('Hole'),
      expect.stringContaining('Hole'),
    ]);
    expect(await sentences(stl('a', bored(3, [20, 30])), stl('b', plate))).toEqual([
      expect.stringMatching(/^Hole filled: ⌀ 6, 8 deep/),
    ]);
  });

  test('a thicker plate has material added, with how much', async () => {
    const [said] = await sentences(stl('a', plate), stl('b', block([0, 0, 0], [80, 60, 8.4])));
    expect(said).toMatch(/^Material added: 80 × 60 × 0\.4, 1920 cubic units, at \(40, 30, 8\.2\)$/);
  });

  test('moved, turned, mirrored and scaled as a whole are one cause, and no part changed', async () => {
    const turn: Placing = [0, 1, 0, 0, -1, 0, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];
    const own = bored(3, [20, 22]);
    expect(await sentences(stl('a', own), stl('b', placedMesh(own, shifted(500, 0, 12))))).toEqual([
      'Everything moved by (500, 0, 12)',
    ]);
    expect(await sentences(stl('a', own), stl('b', placedMesh(own, turn)))).toEqual([
      'Everything turned by 90° about z',
    ]);
    const larger = placedMesh(own, [25.4, 0, 0, 0, 0, 25.4, 0, 0, 0, 0, 25.4, 0, 0, 0, 0, 1]);
    const scaled = await compared(stl('a', own), stl('b', larger));
    expect(scaled.causes[0]?.sentence).toBe('Everything scaled by 25.4');
    expect(scaled.counts).toMatchObject({ changed: 0, added: 0, removed: 0 });
    const [mirrored] = await sentences(
      stl('a', own),
      stl('b', placedMesh(own, [-1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1])),
    );
    expect(mirrored).toMatch(/^Everything mirrored along x/);
  });

  test('one that is only triangulated anew is said to be, and the same is no change', async () => {
    // Seen from the other corner its faces are cut along the other diagonals; turned about, they look outwards again.
    const other = {
      ...plate,
      triangles: plate.triangles.map((_, k) => 7 - plate.triangles[k - (k % 3) + [0, 2, 1][k % 3]!]!),
    };
    expect(await sentences(stl('a', plate), stl('b', other))).toEqual(['Only triangulated anew, 12 triangles']);
    expect((await compared(stl('a', bored(3, [20, 30])), stl('b', bored(3, [20, 30])))).summary).toBe('No change');
  });

  test('the same points with other faces are no “no change”: turned over, or a face left out', async () => {
    const turned = {
      ...plate,
      triangles: plate.triangles.map((_, k) => plate.triangles[k - (k % 3) + [0, 2, 1][k % 3]!]!),
    };
    expect(await sentences(stl('a', plate), stl('b', turned))).toEqual([
      'The surface turned over: what looked outwards looks inwards',
    ]);
    const other = plate.triangles.slice();
    // One corner of one face: the number of points and of faces stays.
    other[0] = [...plate.triangles].find((point) => !plate.triangles.slice(0, 3).includes(point))!;
    const found = await compared(stl('a', plate), stl('b', { ...plate, triangles: other }));
    expect(found.summary).not.toBe('No change');
    expect(found.counts.changed).toBeGreaterThan(0);
  });

  test('where it encloses nothing, surfaces that moved are told', async () => {
    const opened = (mesh: Mesh): Mesh => ({ ...mesh, triangles: mesh.triangles.filter((_, k) => k < 12 || k >= 18) });
    const thicker = block([0, 0, 0], [80, 60, 9]);
    const found = await compared(stl('a', opened(plate)), stl('b', opened(thicker)));
    expect(found.measures?.closed).toEqual([false, false]);
    expect(found.causes[0]?.sentence).toMatch(/^Surface moved outwards by up to 1:/);
  });
});

describe('several bodies', () => {
  const row = (count: number, up = 0): Mesh[] =>
    Array.from({ length: count }, (_, k) => cylinder([40 * k, 0, k % 2 ? up : 0], 5, 60 + k, 24));

  test('one that came, one that went and some that were raised together are told apart', async () => {
    expect(await sentences(stl('a', ...row(5)), stl('b', ...row(6)))).toEqual([
      expect.stringMatching(/^Body \d added$/),
    ]);
    const raised = await compared(stl('a', ...row(6)), stl('b', ...row(6, 150)));
    expect(raised.causes.map(({ sentence }) => sentence)).toEqual(['3 bodies moved together by (0, 0, 150)']);
    expect(raised.counts).toMatchObject({ moved: 3, unchanged: 3 });
  });
});

test('models of different formats are compared with one another', async () => {
  const text = [
    'o plate',
    ...Array.from(
      { length: 8 },
      (_, k) => `v ${plate.points[3 * k]} ${plate.points[3 * k + 1]} ${plate.points[3 * k + 2]}`,
    ),
    ...Array.from({ length: 12 }, (_, t) => `f ${[0, 1, 2].map((k) => plate.triangles[3 * t + k]! + 1).join(' ')}`),
    '',
  ].join('\n');
  const obj = open(strToU8(text), 'plate.obj');
  const found = await compared(obj, stl('plate', plate));
  expect([found.level, found.summary]).toEqual(['solid', 'No change']);
  expect(await sentences(obj, stl('thicker', block([0, 0, 0], [80, 60, 9])))).toEqual([
    expect.stringContaining('Material added: 80 × 60 × 1'),
  ]);
});

test('3MF: a part placed several times is one definition, and its change one cause', async () => {
  const model = (radius: number): Promise<Content> => {
    const cap = cylinder([0, 0, 0], radius, 20, 12);
    const vertices = Array.from(
      { length: cap.points.length / 3 },
      (_, k) => `<vertex x="${cap.points[3 * k]}" y="${cap.points[3 * k + 1]}" z="${cap.points[3 * k + 2]}"/>`,
    );
    const triangles = Array.from(
      { length: cap.triangles.length / 3 },
      (_, t) =>
        `<triangle v1="${cap.triangles[3 * t]}" v2="${cap.triangles[3 * t + 1]}" v3="${cap.triangles[3 * t + 2]}"/>`,
    );
    const items = [0, 100, 200, 300].map((x) => `<item objectid="1" transform="1 0 0 0 1 0 0 0 1 ${x} 0 0"/>`);
    const xml = `<model unit="millimeter" xmlns="http://schemas.microsoft.com/3dmanufacturing/core/2015/02"><resources><object id="1" type="model" name="mooring cap"><mesh><vertices>${vertices.join('')}</vertices><triangles>${triangles.join('')}</triangles></mesh></object></resources><build>${items.join('')}</build></model>`;
    return open(zipSync({ '3D/3dmodel.model': strToU8(xml) }), 'caps.3mf');
  };
  const found = await compared(model(30), model(32));
  expect(found.unit).toBe('mm');
  expect(found.causes.map(({ sentence }) => sentence)).toEqual([
    expect.stringMatching(/^Object “mooring cap” changed.*4 placements/),
  ]);
});

describe('placements of one surface', () => {
  /** Boards that hang on a post: each where it is, scaled along the first axis. */
  async function boards(...places: readonly (readonly [up: number, length: number])[]): Promise<Content> {
    const document = new Document();
    const buffer = document.createBuffer();
    const primitive = document
      .createPrimitive()
      .setAttribute(
        'POSITION',
        document.createAccessor().setType('VEC3').setArray(Float32Array.from(plate.points)).setBuffer(buffer),
      )
      .setIndices(document.createAccessor().setType('SCALAR').setArray(plate.triangles.slice()).setBuffer(buffer));
    const mesh = document.createMesh('board').addPrimitive(primitive);
    const scene = document.createScene();
    places.forEach(([up, length], k) =>
      scene.addChild(
        document
          .createNode(`board ${k + 1}`)
          .setMesh(mesh)
          .setTranslation([0, up, 0])
          .setScale([length, 1, 1]),
      ),
    );
    return open(await new WebIO().writeBinary(document), 'post.glb');
  }
  const three = [0, 100, 200].map((up) => [up, 1] as const);

  test('one that is stretched in one direction is changed', async () => {
    const found = await compared(boards(...three), boards(...three.slice(0, 2), [200, 2]));
    expect(found.counts).toMatchObject({ changed: 1, unchanged: 2 });
    expect(found.changes[0]?.what[0]).toMatchObject({ property: 'scale', from: '1 × 1 × 1', to: '2 × 1 × 1' });
  });

  test('where all others went, the one that stays is as it was, though nothing is shared any more', async () => {
    const found = await compared(boards(...three), boards([0, 1]));
    expect(found.counts).toEqual({ added: 0, removed: 2, changed: 0, moved: 0, unchanged: 1 });
  });

  test('a model that was moved as a whole says how A lies over B', async () => {
    const { outlines } = await compareFiles(
      await boards(...three),
      await boards(...three.map(([up]) => [up + 40, 1] as const)),
    );
    expect(outlines.placing?.slice(12, 15).map(Math.round)).toEqual([0, 0, 40]);
  });
});
