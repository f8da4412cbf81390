import { laidOver } from './align.ts';
import { bodiesOf } from './bodies.ts';
import { deviationBetween, distancesOf, isSameSurface } from './deviation.ts';
import { drawSurfaces } from './draw.ts';
import { boreOf } from './material.ts';
import { measuresOf } from './measure.ts';
import { unitedMesh, type Mesh } from './mesh.ts';
import { nearestOn } from './nearest.ts';
import { asItStands, placedMesh, placedWithin, undone, type Placing } from './placing.ts';
import { printOf } from './print.ts';
import { ball, block, cylinder } from './testing.ts';
import { motionBetweenMeshes, turningOf } from './turning.ts';
import { weldedMesh } from './weld.ts';

const plate = block([0, 0, 0], [80, 60, 8]);
/** Of no symmetry. */
const bracket = unitedMesh([plate, block([0, 0, 8], [12, 60, 30]), block([40, 5, 8], [9, 7, 4])]);

const shifted = (x: number, y: number, z: number): Placing => [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, x, y, z, 1];
const aboutZ = (degrees: number): Placing => {
  const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
  return [c, s, 0, 0, -s, c, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];
};
const aboutX: Placing = [1, 0, 0, 0, 0, 0, 1, 0, 0, -1, 0, 0, 0, 0, 0, 1];
const mirroredX: Placing = [-1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];

/** The same triangles in another order, each begun elsewhere. */
function shuffled({ points, triangles }: Mesh): Mesh {
  const count = triangles.length / 3;
  const order = Array.from({ length: count }, (_, k) => (k * 7 + 3) % count);
  const turned = order.flatMap((t) => [1, 2, 0].map((k) => triangles[3 * t + k] as number));
  return weldedMesh({ points, triangles: Uint32Array.from(turned) });
}

describe('measures', () => {
  test('a block has its volume, area, middle, and no holes', () => {
    const found = measuresOf(block([1, 2, 3], [2, 4, 6]));
    expect(found).toMatchObject({ area: 88, isClosed: true, flat: 0, edges: { open: 0, flipped: 0, crowded: 0 } });
    expect(found?.volume).toBeCloseTo(48, 9);
    expect(found?.centre.map((v) => Math.round(v * 1e9) / 1e9)).toEqual([2, 4, 6]);
  });

  test('a missing triangle leaves three open edges; one that is inside out three flipped ones', () => {
    const open = { ...plate, triangles: plate.triangles.slice(3) };
    expect(measuresOf(open)).toMatchObject({ isClosed: false, edges: { open: 3 } });
    const triangles = plate.triangles.slice();
    [triangles[1], triangles[2]] = [triangles[2]!, triangles[1]!];
    expect(measuresOf({ ...plate, triangles })).toMatchObject({ isClosed: false, edges: { flipped: 3, open: 0 } });
  });

  test('bodies that do not touch are told apart, the largest first', () => {
    const bodies = bodiesOf(
      unitedMesh([block([0, 0, 0], [1, 1, 1]), cylinder([9, 9, 0], 1, 2), block([5, 0, 0], [1, 1, 1])]),
    );
    expect(bodies.map(({ triangles }) => triangles.length / 3)).toEqual([192, 12, 12]);
    expect(bodies.every((body) => measuresOf(body)?.isClosed)).toBe(true);
  });
});

describe('placings', () => {
  const all = [shifted(3, -4, 5), aboutZ(30), aboutX, mirroredX, placedWithin(shifted(1, 2, 3), aboutZ(-75))];
  test.each(all.map((placing) => [placing]))('what was done is undone: %#', (placing) => {
    const back = placedWithin(undone(placing)!, placing);
    back.forEach((value, k) => expect(value).toBeCloseTo(asItStands[k]!, 12));
  });

  test('a placing says how it turns, and whether it mirrors or scales', () => {
    expect(turningOf(aboutZ(30))?.turn).toBeCloseTo(30, 9);
    expect(turningOf(aboutZ(-30))?.axis[2]).toBeCloseTo(-1, 9);
    expect(turningOf(aboutZ(180))).toMatchObject({ turn: 180, axis: [0, 0, 1] });
    expect(turningOf(mirroredX)).toMatchObject({ mirrored: true });
    expect(turningOf([2, 0, 0, 0, 0, 2, 0, 0, 0, 0, 2, 0, 0, 0, 0, 1])?.scale).toBeCloseTo(2, 12);
    expect(turningOf([2, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1])).toBeUndefined();
  });

  test('a mirrored surface still looks outwards', () =>
    expect(measuresOf(placedMesh(plate, mirroredX))?.volume).toBeCloseTo(38_400, 6));

  test('the motion between two surfaces of the same points is found, mirrored ones too', () => {
    const motion = placedWithin(shifted(11, 7, -3), aboutZ(40));
    expect(motionBetweenMeshes(bracket, placedMesh(bracket, motion), 1e-6)?.[12]).toBeCloseTo(11, 6);
    const mirrored = placedWithin(motion, mirroredX);
    // The order of corners goes with it.
    const found = motionBetweenMeshes(
      bracket,
      { ...placedMesh(bracket, mirrored), triangles: bracket.triangles },
      1e-6,
    );
    expect(turningOf(found!)?.mirrored).toBe(true);
    expect(motionBetweenMeshes(plate, block([0, 0, 0], [80, 60, 9]), 1e-6)).toBeUndefined();
  });
});

test('surfaces have one number in whatever order they stand and wherever; turned over they have another', () => {
  const print = printOf(bracket, 1e-3);
  expect(printOf(shuffled(bracket), 1e-3)).toBe(print);
  expect(printOf(placedMesh(bracket, shifted(100, 0, -40)), 1e-3)).toBe(print);
  expect(printOf(placedMesh(bracket, mirroredX), 1e-3)).not.toBe(print);
  expect(printOf(block([0, 0, 0], [80, 60, 8.1]), 1e-3)).not.toBe(printOf(plate, 1e-3));
});

describe('distances', () => {
  test('are positive outside and negative inside, at faces, edges and corners', () => {
    const near = nearestOn(plate);
    expect(near.signed(40, 30, 10)).toBeCloseTo(2, 9);
    expect(near.signed(40, 30, 5)).toBeCloseTo(-3, 9);
    expect(near.signed(83, 64, 4)).toBeCloseTo(5, 9);
    expect(near.signed(82, 61, 10)).toBeCloseTo(3, 9);
    expect(near.signed(40, 30, 100, 5)).toBeUndefined();
  });

  test('of balls one within the other are known to one per cent', () => {
    const { mean, max, rms, within } = deviationBetween(ball(10, 32), ball(10.5, 32), 0.01);
    for (const found of [mean, max, rms]) expect(Math.abs(found - 0.5)).toBeLessThan(0.005);
    expect(within).toBeLessThan(0.01);
  });

  test('of a plate that became thicker: only where it did', () => {
    const thicker = block([0, 0, 0], [80, 60, 8.4]);
    const found = deviationBetween(plate, thicker, 1e-4);
    expect(found.max).toBeCloseTo(0.4, 6);
    expect(found.within).toBeGreaterThan(0.3);
    const distances = distancesOf(thicker, plate);
    expect(Math.max(...distances)).toBeCloseTo(0.4, 5);
    expect(Math.min(...distances)).toBeGreaterThan(-1e-6);
    expect(distances).toHaveLength(thicker.triangles.length);
  });

  test('a surface that is only triangulated otherwise is the same', () => {
    const fine = unitedMesh([block([0, 0, 0], [80, 60, 8])]);
    const turned = { ...fine, triangles: Uint32Array.from([...fine.triangles].map((p) => 7 - p)) };
    expect(isSameSurface(plate, turned, 1e-6)).toBe(true);
    expect(isSameSurface(plate, block([0, 0, 0], [80, 60, 8.01]), 1e-6)).toBe(false);
  });
});

describe('laid over one another', () => {
  const motion = placedWithin(shifted(35, -12, 4), placedWithin(aboutZ(63), aboutX));
  const size = Math.hypot(80, 60, 38);
  const off = (found: Placing, wanted: Placing): number => {
    const [p, q] = [placedMesh(bracket, found).points, placedMesh(bracket, wanted).points];
    return Math.max(...p.map((value, k) => Math.abs(value - q[k]!)));
  };

  test('a known motion is found to a ten-thousandth of the size', () => {
    const laid = laidOver(bracket, shuffled(placedMesh(bracket, motion)), 1e-3);
    expect(laid?.share).toBeGreaterThan(0.99);
    expect(off(laid!.placing, motion)).toBeLessThan(1e-4 * size);
  });

  test('with much of the surface changed it is still found to a thousandth', () => {
    const changed = unitedMesh([bracket, block([12, 0, 8], [68, 60, 25]), block([-20, 0, 0], [20, 60, 30])]);
    const laid = laidOver(bracket, shuffled(placedMesh(changed, motion)), 1e-3);
    expect(off(laid!.placing, motion)).toBeLessThan(1e-3 * size);
  });

  test('mirrored is told; a block fits in several ways, of which the least is told', () => {
    const mirrored = laidOver(bracket, shuffled(placedMesh(bracket, mirroredX)), 1e-3);
    expect(turningOf(mirrored!.placing)?.mirrored).toBe(true);
    const shift = laidOver(plate, placedMesh(plate, shifted(200, 0, 0)), 1e-3);
    expect(shift?.ways).toBeGreaterThan(1);
    expect(turningOf(shift!.placing)).toMatchObject({ turn: 0, mirrored: false });
  });
});

test('a cylinder is a bore with its diameter, whichever way it lies; a block is none', () => {
  const lying = placedMesh(cylinder([4, 5, 6], 3, 20), placedWithin(aboutZ(25), aboutX));
  const bore = boreOf(lying);
  expect(bore?.diameter).toBeCloseTo(6, 1);
  expect(bore?.depth).toBeCloseTo(20, 6);
  expect(Math.abs(bore!.axis[2])).toBeLessThan(1e-6);
  expect(boreOf(plate)).toBeUndefined();
  expect(boreOf(ball(4, 16))).toBeUndefined();
});

test('what is drawn fills the sheet, with faces of several shades and dark edges', () => {
  const drawn = drawSurfaces([{ mesh: bracket, colour: [200, 200, 200] }], 120)!;
  expect(Math.max(drawn.width, drawn.height)).toBe(120);
  const greys = new Set<number>();
  for (let k = 0; k < drawn.data.length; k += 4) greys.add(drawn.data[k]!);
  expect(greys.has(255)).toBe(true);
  expect([...greys].some((grey) => grey < 60)).toBe(true);
  expect([...greys].filter((grey) => grey > 80 && grey < 250).length).toBeGreaterThan(2);
  expect(drawSurfaces([], 120)).toBeUndefined();
});
