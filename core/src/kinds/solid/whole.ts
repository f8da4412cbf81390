/** Whether a whole model was moved, turned, mirrored, scaled or converted to other units. */
import { growthBetween, laidOver, shareWithin, type Laid } from '../../mesh/align.ts';
import { boxOfPoints, diagonal3, unite3, type Box3, type Mesh } from '../../mesh/mesh.ts';
import { asItStands, placedMesh, placedWithin, type Placing } from '../../mesh/placing.ts';
import { printOf } from '../../mesh/print.ts';
import { motionBetweenMeshes } from '../../mesh/turning.ts';
import type { Part } from '../../model/design.ts';
import type { Solid } from '../../model/solid.ts';
import { surfaceOfPart, surfacesOfParts, wholeSurface } from './surfaces.ts';

/** Share of the parts that a motion must bring where B has them. */
const ENOUGH = 0.6;
/** Share that shows that the model as a whole stands where it stood. */
const STILL = 0.1;
/** Parts that are looked at. */
const SAMPLE = 2000;

export interface Whole {
  /** From A to B. */
  readonly placing: Placing;
  /** It is how the axes are written, or a conversion of units, and moves nothing in the world. */
  readonly only?: 'y-up' | 'z-up' | 'units';
  /** Ways in which a body lies over the other as well; more than one where it is symmetrical. */
  readonly ways?: number;
}

const scaled = (s: number): Placing => [s, 0, 0, 0, 0, s, 0, 0, 0, 0, s, 0, 0, 0, 0, 1];
const shifted = (x: number, y: number, z: number): Placing => [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, x, y, z, 1];
/** y up becomes z up, and back. */
const toZUp: Placing = [1, 0, 0, 0, 0, 0, 1, 0, 0, -1, 0, 0, 0, 0, 0, 1];
const toYUp: Placing = [1, 0, 0, 0, 0, 0, -1, 0, 0, 1, 0, 0, 0, 0, 0, 1];

/** Undefined where the model stands where it stood, or no motion explains enough. */
export function wholeMotion(a: Solid, b: Solid, tolerance: number): Whole | undefined {
  const still = shareExplained(a, b, asItStands, tolerance);
  if (still > STILL && !isOneOf(a, b)) return undefined;
  // A body that kept its place was reshaped there, or is the same.
  if (isOneOf(a, b) && still > STILL && sameForm(a, b, asItStands, tolerance)) return undefined;
  const found = movedAs(a, b, tolerance);
  return found && isStill(found.placing, tolerance) ? undefined : found;
}

const isStill = (placing: Placing, tolerance: number): boolean =>
  placing.every((value, k) => Math.abs(value - (asItStands[k] as number)) <= (k < 12 ? 1e-7 : 2 * tolerance));

function movedAs(a: Solid, b: Solid, tolerance: number): Whole | undefined {
  const [boxA, boxB] = [boxOfSolid(a), boxOfSolid(b)];
  if (!boxA || !boxB) return undefined;
  let best: { readonly whole: Whole; readonly share: number } | undefined;
  for (const whole of candidates(a, b, boxA, boxB)) {
    const share = shareExplained(a, b, whole.placing, tolerance);
    if (share >= ENOUGH && share > (best?.share ?? 0)) best = { whole, share };
    if (share > 0.95) break;
  }
  return best?.whole ?? likeBodies(a, b, tolerance) ?? laidBodies(a, b, tolerance);
}

/** Of one body nothing is known but its surface. */
const isOneOf = (a: Solid, b: Solid): boolean => a.parts.length === 1 && b.parts.length === 1;

/** Bodies that are laid over one another, at most. */
const FEW = 4;
/** Triangles of both that are laid over one another, at most. */
const MOST_TRIANGLES = 600_000;
/** Share of the surface that has to lie where B has it; and what does not, as a share of what did not before. */
const LIES = 0.4;
const BETTER = 0.6;
/** Share that says that it stands where it stood. */
const STANDS = 0.998;
/** Share beside which nothing was turned. */
const NEARLY = 0.6;
/** Share that leaves no wish for another way. */
const FITS = 0.96;
/** A body that grew by less than so is not taken for scaled. */
const GROWN = 0.02;

/** Of few bodies: how the whole surface lies over the other one. */
function laidBodies(a: Solid, b: Solid, tolerance: number): Whole | undefined {
  if (a.parts.length > FEW || b.parts.length > FEW) return undefined;
  const [allA, allB] = [wholeSurface(a), wholeSurface(b)];
  if (allA.triangles.length + allB.triangles.length > 3 * MOST_TRIANGLES) return undefined;
  const reach = 8 * tolerance;
  const still = shareWithin(allA, allB, reach);
  if (still > STANDS) return undefined;
  const growth = growthBetween(allA, allB);
  let best: (Laid & { readonly grown: number }) | undefined;
  for (const grown of Math.abs(growth - 1) > GROWN ? [1, growth] : [1]) {
    const own = placedMesh(allA, scaled(grown));
    const near = still > NEARLY ? laidOver(own, allB, reach, true) : undefined;
    const laid = near && near.share > FITS ? near : laidOver(own, allB, reach);
    if (laid && laid.share > (best?.share ?? 0) + 0.05) best = { ...laid, grown };
  }
  if (!best || best.share < LIES || 1 - best.share > BETTER * (1 - still)) return undefined;
  return { placing: placedWithin(best.placing, scaled(best.grown)), ways: best.ways };
}

function* candidates(a: Solid, b: Solid, boxA: Box3, boxB: Box3): Generator<Whole> {
  const [unitA, unitB] = [a.pages[0]?.unitMillimetres, b.pages[0]?.unitMillimetres];
  const ratio = unitA && unitB && unitA !== unitB ? unitA / unitB : 1;
  if (ratio !== 1) yield { placing: scaled(ratio), only: 'units' };
  yield { placing: placedWithin(scaled(ratio), toZUp), only: 'z-up' };
  yield { placing: placedWithin(scaled(ratio), toYUp), only: 'y-up' };
  const grown = diagonal3(boxB) / (diagonal3(boxA) || 1);
  for (const scale of new Set([ratio, 1, grown]))
    for (const turn of [asItStands, toZUp, toYUp]) {
      const turned = placedWithin(scaled(scale), turn);
      const box = boxOfSolid(a, turned);
      if (box) yield { placing: placedWithin(shifted(boxB[0] - box[0], boxB[1] - box[1], boxB[2] - box[2]), turned) };
    }
}

/** Of models of one or few bodies: the motion of the largest that has the same points in the same order. */
function likeBodies(a: Solid, b: Solid, tolerance: number): Whole | undefined {
  const byPoints = (p: Mesh, q: Mesh): number => q.points.length - p.points.length;
  const [largest] = surfacesOfParts(a).sort(byPoints);
  const twin = surfacesOfParts(b)
    .sort(byPoints)
    .find((mesh) => mesh.points.length === largest?.points.length);
  const placing = largest && twin && motionBetweenMeshes(largest, twin, 2 * tolerance);
  return placing && shareExplained(a, b, placing, tolerance) >= ENOUGH ? { placing } : undefined;
}

/** Share of A's parts that stand, once moved, where B has one of the same extent; or of the same surface for one body. */
function shareExplained(a: Solid, b: Solid, placing: Placing, tolerance: number): number {
  const grain = 64 * tolerance;
  const key = (box: Box3): string => box.map((value) => Math.round(value / grain)).join(' ');
  const boxesB = new Set(b.parts.flatMap((part) => cornersOf(b, part, asItStands).map(key)));
  if (boxesB.size === 0) return 0;
  const every = Math.max(1, Math.floor(a.parts.length / SAMPLE));
  let [found, looked] = [0, 0];
  for (let k = 0; k < a.parts.length; k += every) {
    const [box] = cornersOf(a, a.parts[k] as Part, placing);
    if (!box) continue;
    looked++;
    if (around(box, grain).some((near) => boxesB.has(key(near)))) found++;
  }
  if (looked === 0) return 0;
  // Of one body alone, its box says little.
  if (looked === 1 && found === 1 && placing !== asItStands) return sameForm(a, b, placing, tolerance) ? 1 : 0;
  return found / looked;
}

/** A box that lies on the border of two cells is looked for on both sides. */
const around = (box: Box3, grain: number): Box3[] =>
  [0, grain / 2, -grain / 2].map((d) => box.map((value) => value + d) as unknown as Box3);

function sameForm(a: Solid, b: Solid, placing: Placing, tolerance: number): boolean {
  const [[first], [second]] = [surfacesOfParts(a), surfacesOfParts(b)];
  if (!first || !second) return false;
  const moved = placedMesh(first, placing);
  if (printOf(moved, 16 * tolerance) === printOf(second, 16 * tolerance)) return true;
  return motionBetweenMeshes(moved, second, 4 * tolerance) !== undefined;
}

/** The box of a part where it stands, once moved; none where it has no surface. */
function cornersOf(solid: Solid, part: Part, placing: Placing): Box3[] {
  const surface = surfaceOfPart(solid, part);
  const box = surface && boxOfPoints(placedMesh(surface, placing).points);
  return box ? [box] : [];
}

function boxOfSolid(solid: Solid, placing: Placing = asItStands): Box3 | undefined {
  let all: Box3 | undefined;
  for (const part of solid.parts) for (const box of cornersOf(solid, part, placing)) all = unite3(all, box);
  return all;
}

/** The model as it stands once it was moved. */
export function placedSolid(solid: Solid, placing: Placing): Solid {
  const meshes = [...solid.meshes];
  const parts = solid.parts.map((part): Part => {
    const { space } = part;
    const mesh = space && solid.meshes[space.mesh];
    if (!mesh) return part;
    const isPlacement = part.definition !== undefined;
    const whole = placedWithin(placing, space.placing);
    const placed = placedMesh(mesh, whole);
    const box = boxOfPoints(placed.points);
    if (!box) return part;
    if (!isPlacement) meshes[space.mesh] = placed;
    const standing = isPlacement ? whole : asItStands;
    return {
      ...part,
      box: [box[0], box[1], box[3], box[4]],
      space: { mesh: space.mesh, placing: standing, rise: [box[2], box[5]] },
    };
  });
  return { ...solid, meshes, parts };
}

/** A model whose numbers are told in the unit of another. */
export const inUnitOf = (solid: Solid, { origin: { units } }: Solid): Solid => ({
  ...solid,
  origin: { ...solid.origin, ...(units === undefined ? {} : { units }) },
});
