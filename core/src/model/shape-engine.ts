/** Makes surfaces of the faces of STEP models: what it takes and gives. */
export interface ShapeEngine {
  ReadStepFile(
    content: Uint8Array,
    options: {
      readonly linearUnit: string;
      readonly linearDeflectionType: 'absolute_value';
      readonly linearDeflection: number;
      readonly angularDeflection: number;
    },
  ): { readonly success: boolean; readonly root?: ShapeNode; readonly meshes?: readonly ShapeMesh[] };
}

export interface ShapeNode {
  readonly name: string;
  readonly meshes: readonly number[];
  readonly children: readonly ShapeNode[];
}

export interface ShapeMesh {
  readonly name: string;
  readonly color?: readonly number[];
  readonly attributes: { readonly position: { readonly array: readonly number[] } };
  readonly index: { readonly array: readonly number[] };
}
