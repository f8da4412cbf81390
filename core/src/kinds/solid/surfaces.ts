/** Surfaces of parts, where they stand. */
import { unitedMesh, type Mesh } from '../../mesh/mesh.ts';
import { placedMesh } from '../../mesh/placing.ts';
import type { Part } from '../../model/design.ts';
import type { Solid } from '../../model/solid.ts';

/** Undefined where a part has no surface. */
export function surfaceOfPart({ meshes }: Solid, part: Part | undefined): Mesh | undefined {
  const mesh = part?.space && meshes[part.space.mesh];
  return mesh && placedMesh(mesh, part.space.placing);
}

/** Of all parts that have one. */
export const surfacesOfParts = (solid: Solid): Mesh[] =>
  solid.parts.flatMap((part) => surfaceOfPart(solid, part) ?? []);

/** All of a model as one surface. */
export const wholeSurface = (solid: Solid): Mesh => unitedMesh(surfacesOfParts(solid));
