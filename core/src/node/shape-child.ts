/** Child process: a model on standard input, its surfaces on standard output. It may hang or abort. */
import { createRequire } from 'node:module';
import { serialize } from 'node:v8';
import { ReadError } from '../model/problem.ts';
import type { ShapeMesh, ShapeOptions, ShapesFound } from '../model/shape-engine.ts';
import { buildingShapes } from './building-shapes.ts';
import { inputOfChild } from './child.ts';
import { limitMemory } from './memory.ts';
import type { ShapeAnswer } from './shapes.ts';

limitMemory();
const [, , what, word = ''] = process.argv;

interface StepReader {
  ReadStepFile(
    content: Uint8Array,
    options: ShapeOptions,
  ): { readonly success: boolean; readonly root?: ShapesFound['root']; readonly meshes?: readonly ShapeMesh[] };
}

/** Undefined where the engine makes nothing of it. */
async function shapesOf(bytes: Uint8Array): Promise<ShapesFound | undefined> {
  // It comes without types, in the older kind of module.
  const load = createRequire(import.meta.url)('occt-import-js') as (options: object) => Promise<StepReader>;
  const reader = await load({ print: (): void => undefined, printErr: (): void => undefined });
  const { success, root, meshes = [] } = reader.ReadStepFile(bytes, JSON.parse(word) as ShapeOptions);
  if (!success || !root) return undefined;
  return { root, meshes: meshes.map(packed) };
}

/** Without the ranges of its faces, and in as little room as there may be. */
const packed = ({ name, color, attributes, index }: ShapeMesh): ShapeMesh => ({
  name,
  ...(color ? { color: [...color] } : {}),
  attributes: { position: { array: Float64Array.from(attributes.position.array) } },
  index: { array: Uint32Array.from(index.array) },
});

async function answer(): Promise<ShapeAnswer<unknown>> {
  const input = await inputOfChild();
  try {
    const found = what === 'shapes' ? await shapesOf(input) : await buildingShapes(input, Number(word));
    return found ? { found } : { refused: 'unsupported' };
  } catch (error) {
    const isTooLarge = error instanceof ReadError && error.code === 'too-large';
    return { refused: isTooLarge ? 'too-large' : 'unsupported' };
  }
}

process.stdout.write(serialize(await answer()));
