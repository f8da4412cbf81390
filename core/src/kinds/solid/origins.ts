/** Definitions whose surfaces are the same, told from the same origin: only what stands elsewhere has moved then. */
import { boxOfPoints, type Mesh, type Point3 } from '../../mesh/mesh.ts';
import { placedMesh, placedWithin, type Placing } from '../../mesh/placing.ts';
import type { Definition, Part } from '../../model/design.ts';
import type { Solid } from '../../model/solid.ts';

/** By the fingerprint of a surface: the lowest corner that it has where it was first seen. */
type Corners = Map<string, Point3>;

export function withSameOrigins(a: Solid, b: Solid): readonly [Solid, Solid] {
  const corners: Corners = new Map();
  return [toldFrom(a, corners), toldFrom(b, corners)];
}

function toldFrom(solid: Solid, corners: Corners): Solid {
  const shifts = solid.definitions.map((definition) => shiftOf(solid.meshes, definition, corners));
  if (shifts.every((shift) => shift === undefined)) return solid;
  const meshes = [...solid.meshes];
  solid.definitions.forEach((definition, k) => {
    const [shift, place] = [shifts[k], meshOf(definition)];
    const mesh = meshes[place];
    if (shift && mesh) meshes[place] = placedMesh(mesh, moving(shift, -1));
  });
  const parts = solid.parts.map((part): Part => {
    const shift = part.definition === undefined ? undefined : shifts[part.definition];
    if (!shift || !part.space) return part;
    return { ...part, space: { ...part.space, placing: placedWithin(part.space.placing, moving(shift, 1)) } };
  });
  return { ...solid, meshes, parts };
}

const meshOf = ({ content }: Definition): number => content?.[0]?.space?.mesh ?? -1;

/** How far a definition's surface lies from where the same one was first seen; undefined where it lies there. */
function shiftOf(meshes: readonly Mesh[], definition: Definition, corners: Corners): Point3 | undefined {
  const box = boxOfPoints(meshes[meshOf(definition)]?.points ?? new Float64Array(0));
  if (!box) return undefined;
  const corner: Point3 = [box[0], box[1], box[2]];
  const first = corners.get(definition.fingerprint);
  if (!first) {
    corners.set(definition.fingerprint, corner);
    return undefined;
  }
  const shift: Point3 = [corner[0] - first[0], corner[1] - first[1], corner[2] - first[2]];
  return shift.every((value) => value === 0) ? undefined : shift;
}

const moving = ([x, y, z]: Point3, way: 1 | -1): Placing => [
  1,
  0,
  0,
  0,
  0,
  1,
  0,
  0,
  0,
  0,
  1,
  0,
  way * x,
  way * y,
  way * z,
  1,
];
