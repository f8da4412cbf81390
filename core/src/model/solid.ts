/** Models in space: a design whose parts have surfaces. */
import type { Mesh } from '../mesh/mesh.ts';
import type { Placing } from '../mesh/placing.ts';
import type { Design } from './design.ts';

/** How a part stands in space. Its `box` is what it covers as seen from above. */
export interface InSpace {
  /** Index into `Solid.meshes`; −1 where it has no surface of its own. */
  readonly mesh: number;
  /** From the surface's own coordinates to those of the model; z is up. */
  readonly placing: Placing;
  /** Lowest and highest z. */
  readonly rise: readonly [bottom: number, top: number];
}

/**
 * Pages are storeys, where a model has them, else there is one. Definitions are types and products, and surfaces that
 * several parts are placements of. x and y are as in the file, and z is up.
 */
export interface Solid extends Design {
  readonly meshes: readonly Mesh[];
}

/** Property of a part whose shape could not be worked out: its digest, which changes when the shape does. */
export const UNSEEN = 'unseen shape';

/** Whether it is a model, with surfaces or without. */
export const isInSpace = (design: Design): boolean => 'meshes' in design;

/** The surfaces of a model; none where a design is flat. */
export const surfacesOf = (design: Design): readonly Mesh[] => ('meshes' in design ? (design as Solid).meshes : []);
