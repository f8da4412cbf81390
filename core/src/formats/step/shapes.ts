/** The surfaces of a STEP model, which an engine makes of its faces. */
import { engine } from '../../model/engines.ts';
import type { ShapeMesh, ShapeNode } from '../../model/shape-engine.ts';
import type { Limits } from '../../model/limits.ts';
import { ReadError } from '../../model/problem.ts';
import { boxOfPoints, diagonal3, type Mesh } from '../../mesh/mesh.ts';
import { weldedMesh } from '../../mesh/weld.ts';
import type { StepFile } from '../shared/step21/scan.ts';
import type { LengthUnit } from '../shared/step21/length.ts';

export interface Body {
  readonly name: string;
  /** Names of the assemblies that hold it, outermost first. */
  readonly parents: readonly string[];
  /** Where it stands in the world. */
  readonly mesh: Mesh;
  readonly colour: string | undefined;
}

const unitNames: Readonly<Record<string, string>> = {
  mm: 'millimeter',
  cm: 'centimeter',
  m: 'meter',
  in: 'inch',
  ft: 'foot',
};
/** How far a triangle may lie off its face, as a share of the size of the model rounded to a power of ten. */
const FINE = 2e-4;
/** Between the directions of neighbouring triangles, in radians. */
const TURN = 0.35;
const DEEPEST = 64;

/** Throws ReadError where the engine finds no shape, or of a model that is too large. */
export async function bodiesOf(
  bytes: Uint8Array,
  file: StepFile,
  unit: LengthUnit | undefined,
  limits: Limits,
): Promise<Body[]> {
  const readShapes = await engine('shapes');
  const { root, meshes } = await readShapes(bytes, {
    linearUnit: unitNames[unit?.name ?? 'mm'] ?? 'millimeter',
    linearDeflectionType: 'absolute_value',
    linearDeflection: FINE * sizeOf(file),
    angularDeflection: TURN,
  });
  const corners = meshes.reduce((sum, { index }) => sum + index.array.length, 0);
  if (corners > limits.points)
    throw new ReadError('The model has more triangles than Ovrel looks into.', undefined, 'too-large');
  const bodies = bodiesIn(root, meshes);
  // It may say that all went well, and have nothing.
  if (bodies.length === 0) throw new ReadError('No shape was found in this model.', undefined, 'empty');
  return bodies;
}

/**
 * The power of ten above its places. It must not follow from the size itself: a part that comes or goes would make all
 * others look made anew.
 */
function sizeOf(file: StepFile): number {
  let most = 0;
  for (const id of file.ofType('CARTESIAN_POINT')) {
    const place = file.values(id)[1];
    if (!Array.isArray(place)) continue;
    for (const value of place as readonly unknown[])
      if (typeof value === 'number' && Number.isFinite(value)) most = Math.max(most, Math.abs(value));
  }
  return 10 ** Math.ceil(Math.log10(most || 1));
}

function bodiesIn(root: ShapeNode, meshes: readonly ShapeMesh[]): Body[] {
  const out: Body[] = [];
  const walk = ({ name, meshes: own, children }: ShapeNode, parents: readonly string[]): void => {
    const within = name ? [...parents, name] : parents;
    for (const number of own) {
      const body = meshes[number];
      if (body) out.push(...bodyOf(body, within));
    }
    if (parents.length < DEEPEST) for (const child of children) walk(child, within);
  };
  walk(root, []);
  return out;
}

/** Faces that no triangle lies in have no points. */
function bodyOf({ name, color, attributes, index }: ShapeMesh, within: readonly string[]): Body[] {
  const points = Float64Array.from(attributes.position.array);
  const triangles = Uint32Array.from(index.array);
  const count = points.length / 3;
  const isSound = points.every(Number.isFinite) && triangles.every((corner) => corner < count);
  if (!isSound || triangles.length === 0) return [];
  const box = boxOfPoints(points);
  // Corners of neighbouring faces are worked out one by one, and differ in the last digits.
  const grain = box ? diagonal3(box) * 1e-9 : 0;
  const rounded = grain > 0 ? points.map((value) => Math.round(value / grain) * grain) : points;
  const colour = color
    ? `#${color
        .map((value) =>
          Math.round(255 * value)
            .toString(16)
            .padStart(2, '0'),
        )
        .join('')}`
    : undefined;
  // A product with one body stands as its own assembly there.
  const parents = within.at(-1) === name ? within.slice(0, -1) : within;
  return [{ name, parents, mesh: weldedMesh({ points: rounded, triangles }), colour }];
}
