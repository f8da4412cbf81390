/**
 * Models: how true distances and alignments are against what is known of plates, cylinders and balls; how long distances
 * take beside asking for the nearest point of every corner; and how long two bodies take to be compared.
 */
import { strFromU8, strToU8 } from 'fflate';
import { BufferAttribute, BufferGeometry, Vector3 } from 'three';
import { MeshBVH } from 'three-mesh-bvh';
import '../core/src/node/index.ts';
import { compareFiles, open } from '../core/src/index.ts';
import { laidOver } from '../core/src/mesh/align.ts';
import { deviationBetween } from '../core/src/mesh/deviation.ts';
import { unitedMesh, type Mesh } from '../core/src/mesh/mesh.ts';
import { placedMesh, placedWithin, type Placing } from '../core/src/mesh/placing.ts';
import { ball, block, cylinder, stlOf } from '../core/src/mesh/testing.ts';
import { makeModel } from '../demo/models/make.ts';
import { shelter } from '../demo/models/shelter.ts';
import { against, line, median, ms, time } from './measure.ts';

export async function benchModels(): Promise<void> {
  offsets();
  alignments();
  await distances();
  await bodies();
  await largeBuildings();
}

const percent = (share: number): string => `${(100 * share).toFixed(3)} %`;

/** Surfaces that lie a known distance apart all over: mean and largest distance beside it. */
function offsets(): void {
  const known: readonly (readonly [string, Mesh, Mesh, number])[] = [
    ['balls', ball(100, 64), ball(100.5, 64), 0.5],
    ['tubes, their walls', wall(40, 300), wall(40.2, 300), 0.2],
    ['plates, their upper faces', face(0), face(0.05), 0.05],
  ];
  for (const [name, a, b, offset] of known) {
    const { mean, max } = deviationBetween(a, b, offset / 100);
    const off = Math.max(Math.abs(mean - offset), Math.abs(max - offset)) / offset;
    line(`distance of ${name}: error of mean and largest`, percent(off), 'goal ≤ 1 % of the distance');
  }
}

const face = (z: number): Mesh => ({
  points: Float64Array.from([0, 0, z, 200, 0, z, 200, 150, z, 0, 150, z]),
  triangles: Uint32Array.from([0, 1, 2, 0, 2, 3]),
});

/** A tube without its ends. */
function wall(radius: number, height: number): Mesh {
  const whole = cylinder([0, 0, 0], radius, height, 512);
  const triangles: number[] = [];
  for (let t = 0; t < whole.triangles.length; t += 3) {
    const corners = [...whole.triangles.subarray(t, t + 3)];
    if (corners.every((corner) => corner > 1)) triangles.push(...corners);
  }
  return { points: whole.points, triangles: Uint32Array.from(triangles) };
}

const bracket = unitedMesh([
  block([0, 0, 0], [80, 60, 8]),
  block([0, 0, 8], [12, 60, 30]),
  block([40, 5, 8], [9, 7, 4]),
]);
const SIZE = Math.hypot(80, 60, 38);

const about = (axis: 0 | 1 | 2, degrees: number): Placing => {
  const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
  const [p, q] = [0, 1, 2].filter((k) => k !== axis) as [number, number];
  const m = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];
  [m[5 * p], m[5 * q], m[4 * p + q], m[4 * q + p]] = [c, c, s, -s];
  return m;
};

/** Known motions, found again with the same surface and with half of it changed. */
function alignments(): void {
  const changed = unitedMesh([bracket, block([12, 0, 8], [68, 60, 25]), block([-20, 0, 0], [20, 60, 30])]);
  for (const [name, other, goal] of [
    ['the same surface', bracket, 1e-4],
    ['with half of it changed', changed, 1e-3],
  ] as const) {
    const errors: number[] = [];
    for (let k = 0; k < 20; k++) {
      const shift: Placing = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 31 * k - 200, 17 * k, 400 - 23 * k, 1];
      const motion = placedWithin(
        shift,
        placedWithin(about(2, 37 * k), placedWithin(about(1, 11 * k), about(0, 53 * k))),
      );
      const laid = laidOver(bracket, placedMesh(other, motion), 1e-3);
      const [found, wanted] = [laid?.placing ?? motion, motion].map((m) => placedMesh(bracket, m).points);
      const off = laid
        ? Math.max(...(found ?? []).map((value, n) => Math.abs(value - (wanted?.[n] ?? NaN))))
        : Infinity;
      errors.push(off / SIZE);
    }
    const right = errors.filter((error) => error <= goal).length;
    line(
      `20 known motions, ${name}: found`,
      `${right} of 20`,
      `goal: all to ${goal} of the size; median ${median(errors).toExponential(1)}`,
    );
  }
}

/** About 200,000 triangles a side, a hundredth of them elsewhere. */
async function distances(): Promise<void> {
  const a = ball(100, 224);
  const points = a.points.slice();
  for (let p = 0; p < points.length; p += 3)
    if ((points[p + 2] as number) > 98) points[p + 2] = (points[p + 2] as number) + 0.4;
  const b = { points, triangles: a.triangles };
  const count = a.triangles.length / 3;
  const found = await against(
    () => {
      everyCorner(a, b);
      everyCorner(b, a);
    },
    // A surface of its own each time, so that no tree is known from before.
    () => deviationBetween({ ...a }, { ...b }, 1e-3),
    3,
  );
  line(
    `distances of ${count.toLocaleString('en')} triangles both ways ÷ nearest points of all corners`,
    found.ratio.toFixed(2),
    `goal ≤ 1; ${ms(found.subject)}, ${ms(found.baseline)}`,
  );
}

function everyCorner({ points }: Mesh, of: Mesh): void {
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(of.points, 3));
  geometry.setIndex(new BufferAttribute(of.triangles.slice(), 1));
  const tree = new MeshBVH(geometry);
  const from = new Vector3();
  const hit = { point: new Vector3(), distance: 0, faceIndex: 0 };
  for (let p = 0; p < points.length; p += 3)
    tree.closestPointToPoint(from.set(points[p] as number, points[p + 1] as number, points[p + 2]), hit);
}

async function bodies(): Promise<void> {
  const compared = async (a: Uint8Array, b: Uint8Array): Promise<string> =>
    (await compareFiles(await open(a, 'a.stl'), await open(b, 'b.stl'))).comparison.summary;
  for (let stage = 1; stage < 5; stage++) {
    const [a, b] = [
      await makeModel({ model: 'bracket', stage: stage - 1 }),
      await makeModel({ model: 'bracket', stage }),
    ];
    let said = '';
    const took = await time(async () => {
      said = await compared(a, b);
    });
    line(`the bracket, v${stage} with v${stage + 1}`, ms(took), said);
  }
  const [large, larger] = [ball(100, 500), unitedMesh([ball(100, 500), block([200, 0, 0], [9, 9, 9])])];
  const took = await time(() => compared(stlOf(large), stlOf(larger)));
  line(`two models of ${(large.triangles.length / 3).toLocaleString('en')} triangles, one body added`, ms(took));
}

/** Benches of a building model of about 40 MB and 720,000 records, and every which of them is moved. */
const [MANY, EVERY] = [80_000, 100];

/** Two large building models, of which one in a hundred elements was moved: comparing them beside reading them. */
async function largeBuildings(): Promise<void> {
  const a = shelter(4, { benches: MANY });
  let benches = 0;
  const edited = strFromU8(a).replace(
    /IFCCARTESIANPOINT\(\(([1-9]\d*)\.,(\d+)\.,0\.\)\)/g,
    (as, x: string, y: string) => (++benches % EVERY === 0 ? `IFCCARTESIANPOINT((${Number(x) + 300}.,${y}.,0.))` : as),
  );
  const start = performance.now();
  const sides = [await open(a, 'a.ifc'), await open(strToU8(edited), 'b.ifc')] as const;
  const read = performance.now();
  const { comparison } = await compareFiles(...sides);
  const compared = performance.now();
  const [reading, comparing] = [read - start, compared - read];
  line(
    `two building models of ${(a.length / 1e6).toFixed(0)} MB, ${comparison.changes.length} elements moved`,
    ms(comparing),
    `${(comparing / reading).toFixed(2)} of reading both; ${comparison.causes.length} cause; goal ≤ 1`,
  );
}
