/** Products of STEP models (AP203, AP214, AP242): their assembly, and the shapes of their bodies. */
import { boxOfPoints, diagonal3 } from '../../mesh/mesh.ts';
import { asItStands, placedMesh, placedWithin, undone, type Placing } from '../../mesh/placing.ts';
import { motionBetweenMeshes } from '../../mesh/turning.ts';
import type { Limits } from '../../model/limits.ts';
import { orUnreadable, ReadError } from '../../model/problem.ts';
import { UNSEEN, type Solid } from '../../model/solid.ts';
import { SolidBuilder, type Given } from '../shared/solid-builder.ts';
import { Digests } from '../shared/step21/digest.ts';
import { scanStep, type StepFile } from '../shared/step21/scan.ts';
import { lengthUnitOf, occurrencesIn, type Occurrence } from './products.ts';
import { bodiesOf, type Body } from './shapes.ts';

/** Parts of a unit in which places are told. */
const FINE = 1e6;
/** Bodies of one name beyond which it is not found out how they stand to one another. */
const MOST_ALIKE = 400;

/** Throws ReadError where there is no product that can be read. */
export async function readStep(bytes: Uint8Array, limits: Limits): Promise<Solid> {
  const file = scanStep(bytes, limits.elements);
  const unit = lengthUnitOf(file);
  const occurrences = occurrencesIn(file, limits.placements) ?? [];
  const bodies = await orUnreadable(bodiesOf(bytes, file, unit, limits));
  const builder = new SolidBuilder(limits);
  builder.notes.push(...file.notes);
  if (bodies instanceof ReadError) {
    builder.notes.push(`${bodies.message} Its products are listed without them.`);
    addBare(builder, occurrences, file);
  } else addBodies(builder, bodies, occurrences);
  const program = file.header.program || file.header.writer;
  const origin = {
    formatVersion: file.header.schema.replace(/\s*\{.*$/, ''),
    ...(program ? { program: program.slice(0, 80) } : {}),
    ...(unit ? { units: unit.name } : {}),
  };
  const tellsWithout = occurrences.length > 0;
  return builder.finish('step', origin, { unitMillimetres: unit?.millimetres, tellsWithout });
}

function addBare(builder: SolidBuilder, occurrences: readonly Occurrence[], file: StepFile): void {
  // What cannot be seen is at least known to be the same or another.
  const digests = new Digests(file);
  for (const { name, parents, placing, id, shape } of occurrences) {
    const own = shape === undefined ? {} : { [UNSEEN]: digests.of(shape) };
    const [x = 0, y = 0, z = 0] = placing.slice(12).map((value) => Math.round(value * FINE) / FINE + 0);
    builder.addBare({ kind: 'product', name, parents, props: { name, x, y, z, ...own }, span: file.span(id) });
  }
}

interface Named extends Body {
  /** What the file says of where it stands, where that is known of this very body. */
  readonly placing?: Placing;
}

function addBodies(builder: SolidBuilder, found: readonly Body[], occurrences: readonly Occurrence[]): void {
  const bodies = isInOrder(found, occurrences) ? inOrder(found, occurrences) : found;
  const groups = Map.groupBy(bodies, ({ name, mesh }) => `${name}\n${mesh.triangles.length}`);
  const placed = new Map<Body, { readonly definition: number; readonly placing: Placing }>();
  for (const alike of groups.values()) {
    const [first] = alike;
    if (!first || alike.length < 2 || alike.length > MOST_ALIKE) continue;
    const placings = standingOf(alike, occurrences);
    const back = placings && undone(placings[0] ?? asItStands);
    if (!placings || !back) continue;
    const definition = builder.define('product', first.name, `product ${first.name}`, placedMesh(first.mesh, back));
    alike.forEach((body, k) => placed.set(body, { definition, placing: placings[k] ?? asItStands }));
  }
  for (const body of bodies) {
    const at = placed.get(body);
    if (at) builder.place(givenOf(body), at.definition, at.placing);
    else builder.add(givenOf(body), body.mesh);
  }
}

/** Whether the engine gives one body a product, in the order of the file. */
const isInOrder = (bodies: readonly Body[], occurrences: readonly Occurrence[]): boolean =>
  bodies.length === occurrences.length &&
  bodies.every(({ parents: [root, inner] }, k) => {
    const { parents, name } = occurrences[k] as Occurrence;
    const isRoot = root === undefined || root === parents[0] || root === name;
    return isRoot && (inner === undefined || inner === parents[1] || inner === name);
  });

/** Products say better what they are called than their bodies, and where they belong. */
const inOrder = (bodies: readonly Body[], occurrences: readonly Occurrence[]): Named[] =>
  bodies.map((body, k) => {
    const { name, parents, placing } = occurrences[k] as Occurrence;
    return { ...body, name, parents, placing };
  });

const givenOf = ({ name, parents, colour }: Body): Given => ({
  kind: 'product',
  name: name || 'body',
  parents,
  props: { name, ...(colour === undefined ? {} : { colour }) },
});

/**
 * How bodies of one shape stand, as the file says. Undefined where they are of several shapes, or the file says something
 * else than the engine.
 */
function standingOf(bodies: readonly Named[], occurrences: readonly Occurrence[]): Placing[] | undefined {
  const [first] = bodies;
  const box = first && boxOfPoints(first.mesh.points);
  if (!first || !box) return undefined;
  const reach = 1e-5 * diagonal3(box);
  const motions: Placing[] = [];
  for (const { mesh } of bodies) {
    const motion = mesh === first.mesh ? asItStands : motionBetweenMeshes(first.mesh, mesh, reach);
    if (!motion) return undefined;
    motions.push(motion);
  }
  // A body that is symmetrical may have been turned on its way without a trace.
  const own = occurrences.filter(({ name }) => name === first.name);
  const candidates = [first.placing, ...own.map(({ placing }) => placing)].filter((placing) => placing !== undefined);
  for (const candidate of candidates) {
    const placings = motions.map((motion) => placedWithin(motion, candidate));
    if (placings.every((one) => own.some(({ placing }) => isNear(one, placing, reach)))) return placings;
  }
  return undefined;
}

const isNear = (p: Placing, q: Placing, reach: number): boolean =>
  p.every((value, k) => Math.abs(value - (q[k] as number)) <= (k < 12 ? 1e-4 : 100 * reach));
