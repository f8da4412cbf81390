/** Sound models to begin with, small ones, of every format that has a reader. */
import { block, cylinder, stlOf } from '../core/src/mesh/testing.ts';
import { hinge } from '../demo/models/hinge.ts';
import { makeModel } from '../demo/models/make.ts';
import { shelter } from '../demo/models/shelter.ts';

const text = (lines: readonly string[]): Uint8Array => new TextEncoder().encode(`${lines.join('\n')}\n`);
const plate = block([0, 0, 0], [80, 60, 8]);
const corners = Array.from({ length: 8 }, (_, k) => [...plate.points.subarray(3 * k, 3 * k + 3)].join(' '));
const faces = (first: number): string[] =>
  Array.from({ length: 12 }, (_, t) => [0, 1, 2].map((k) => (plate.triangles[3 * t + k] ?? 0) + first).join(' '));

function stlText(): Uint8Array {
  const facets = faces(0).flatMap((face) => [
    'facet normal 0 0 1',
    'outer loop',
    ...face.split(' ').map((corner) => `vertex ${corners[Number(corner)]}`),
    'endloop',
    'endfacet',
  ]);
  return text(['solid plate', ...facets, 'endsolid plate']);
}

const plyHead = [
  'ply',
  'format ascii 1.0',
  'element vertex 8',
  'property float x',
  'property float y',
  'property float z',
];

export async function models(): Promise<Record<string, Uint8Array[]>> {
  const caps = await makeModel({ model: 'cap', stage: 0 });
  return {
    stl: [stlOf(plate, cylinder([200, 0, 0], 9, 40, 12)), stlText()],
    obj: [
      text([
        'o plate',
        ...corners.map((corner) => `v ${corner}`),
        'usemtl steel',
        ...faces(1).map((face) => `f ${face}`),
      ]),
      text(['v 0 0 0', 'v 9 0 0', 'v 9 9 0', 'v 0 9 0', 'g lid', 'f -4 -3 -2 -1']),
    ],
    ply: [
      text([
        ...plyHead,
        'element face 12',
        'property list uchar int vertex_indices',
        'end_header',
        ...corners,
        ...faces(0).map((face) => `3 ${face}`),
      ]),
    ],
    '3mf': [caps, await makeModel({ model: 'cap', stage: 2 })],
    ifc: [shelter(3, { benches: 2 })],
    step: [hinge(0)],
    glb: [await makeModel({ model: 'post', stage: 0 }), await makeModel({ model: 'post', stage: 2 })],
  };
}
