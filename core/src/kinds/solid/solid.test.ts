import { packSpace, surfaceInSpace, unpackSpace } from './packed.ts';
import { spaceOf } from './space.ts';
import { solidFacts } from './facts.ts';
import { wholeMotion } from './whole.ts';
import { readThreemf } from '../../formats/threemf/read.ts';
import { readStl } from '../../formats/stl/read.ts';
import { measuresOf } from '../../mesh/measure.ts';
import { placedMesh } from '../../mesh/placing.ts';
import { block, stlOf } from '../../mesh/testing.ts';
import { defaultLimits } from '../../model/limits.ts';
import { strToU8, zipSync } from 'fflate';

const far = block([4_000_000, 5_000_000, 100], [80, 60, 8]);

test('a model far from the origin comes to the viewer with its places to a hundredth, and back into the world', () => {
  const solid = readStl(stlOf(block([4000, 5000, 100], [80, 60, 8])), defaultLimits);
  const space = unpackSpace(packSpace(spaceOf(solid)));
  expect(space.head.origin).toEqual([4040, 5030, 104]);
  expect(Math.max(...space.meshes[0]!.points)).toBe(40);
  const back = surfaceInSpace(space, 0)!;
  expect(measuresOf(back)?.volume).toBeCloseTo(38_400, 3);
  expect(back.points[0]).toBeGreaterThanOrEqual(4000);
  expect(far.points[0]).toBe(4_000_000);
});

test('placements keep one surface, and stand where they are placed', () => {
  const corner = (x: number, y: number, z: number): string => `<vertex x="${x}" y="${y}" z="${z}"/>`;
  const inside = `<object id="1" name="wedge"><mesh><vertices>${corner(0, 0, 0)}${corner(9, 0, 0)}${corner(0, 9, 0)}${corner(0, 0, 9)}</vertices><triangles><triangle v1="0" v2="2" v3="1"/><triangle v1="0" v2="1" v3="3"/><triangle v1="0" v2="3" v3="2"/><triangle v1="1" v2="2" v3="3"/></triangles></mesh></object>`;
  const items = [0, 50].map((x) => `<item objectid="1" transform="1 0 0 0 1 0 0 0 1 ${x} 0 0"/>`).join('');
  const xml = `<model unit="millimeter"><resources>${inside}</resources><build>${items}</build></model>`;
  const solid = readThreemf(zipSync({ '3D/3dmodel.model': strToU8(xml) }), defaultLimits);
  const space = unpackSpace(packSpace(spaceOf(solid)));
  expect(space.meshes).toHaveLength(1);
  expect([0, 1].map((part) => surfaceInSpace(space, part)?.points.slice(0, 3))).toEqual([
    Float64Array.from([0, 0, 0]),
    Float64Array.from([50, 0, 0]),
  ]);
  expect(solidFacts(solid)).toMatchObject({ size: [59, 9, 9], triangles: 8, closed: true });
});

test('a model that stands where it stood has no motion as a whole; units are told from scaling', () => {
  const solid = readStl(
    stlOf(block([0, 0, 0], [80, 60, 8]), block([200, 0, 0], [5, 6, 7]), block([0, 300, 0], [3, 3, 9])),
    defaultLimits,
  );
  expect(wholeMotion(solid, solid, 1e-4)).toBeUndefined();
  const inches = { ...solid, pages: [{ ...solid.pages[0]!, unitMillimetres: 25.4 }] };
  const metres = {
    ...solid,
    pages: [{ ...solid.pages[0]!, unitMillimetres: 1 }],
    meshes: solid.meshes.map((mesh) => placedMesh(mesh, [25.4, 0, 0, 0, 0, 25.4, 0, 0, 0, 0, 25.4, 0, 0, 0, 0, 1])),
  };
  expect(wholeMotion(inches, metres, 1e-3)?.only).toBe('units');
});
