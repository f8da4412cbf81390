/** Engines that make surfaces of what models say of their solids: what they take and give. */
import type { Mesh } from '../mesh/mesh.ts';
import type { Placing } from '../mesh/placing.ts';

/** Of STEP models. Throws ReadError where it finds nothing, or not in the time that it may take. */
export type ShapeEngine = (bytes: Uint8Array, options: ShapeOptions) => Promise<ShapesFound>;

export interface ShapeOptions {
  readonly linearUnit: string;
  readonly linearDeflectionType: 'absolute_value';
  readonly linearDeflection: number;
  readonly angularDeflection: number;
}

export interface ShapesFound {
  readonly root: ShapeNode;
  readonly meshes: readonly ShapeMesh[];
}

export interface ShapeNode {
  readonly name: string;
  readonly meshes: readonly number[];
  readonly children: readonly ShapeNode[];
}

export interface ShapeMesh {
  readonly name: string;
  readonly color?: readonly number[];
  readonly attributes: { readonly position: { readonly array: ArrayLike<number> } };
  readonly index: { readonly array: ArrayLike<number> };
}

/**
 * Of building models, of no more than so many corners. Throws ReadError where it finds nothing, or not in the time that
 * it may take.
 */
export type BuildingEngine = (bytes: Uint8Array, most: number) => Promise<BuildingShapes>;

/** A surface and where it stands in the world, in the unit of the file, z up. */
export interface PlacedSurface {
  /** Surfaces of one number are the same. */
  readonly number: number;
  readonly placing: Placing;
  readonly colour: string;
}

export interface BuildingShapes {
  /** By the number of an element's record. */
  readonly surfaces: ReadonlyMap<number, readonly PlacedSurface[]>;
  readonly meshes: ReadonlyMap<number, Mesh>;
}
