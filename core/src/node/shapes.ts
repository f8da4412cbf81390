/** Surfaces of models, worked out by engines in processes of their own: of some files they never come to an end. */
import { deserialize } from 'node:v8';
import { ReadError } from '../model/problem.ts';
import type { BuildingShapes, ShapeOptions, ShapesFound } from '../model/shape-engine.ts';
import { answerOfChild } from './child.ts';

/** What the process answers. */
export type ShapeAnswer<T> = { readonly found: T } | { readonly refused: 'too-large' | 'unsupported' };

/** Milliseconds of computing: for any model, for each byte of it, and at most. */
const TIME = 8000;
const TIME_A_BYTE = { buildings: 0.0015, shapes: 0.003 } as const;
const MOST_TIME = 90_000;

/** Throws ReadError where the engine has nothing to say; Exhausted where the machine was too busy. */
async function shapesBy<T>(what: keyof typeof TIME_A_BYTE, input: Uint8Array, words: readonly string[]): Promise<T> {
  const answer = await answerOfChild({
    script: 'shape-child.ts',
    words: [what, ...words],
    input,
    milliseconds: Math.min(MOST_TIME, TIME + TIME_A_BYTE[what] * input.length),
    busy: 'The shapes of this model could not be worked out just now: the machine has too much to do.',
  });
  const said = answer ? (deserialize(answer) as ShapeAnswer<T>) : ({ refused: 'unsupported' } as const);
  if ('found' in said) return said.found;
  if (said.refused === 'too-large')
    throw new ReadError('The model has more triangles than Ovrel looks into.', undefined, 'too-large');
  throw new ReadError('The shapes of this model could not be worked out.', undefined, 'unsupported');
}

export const shapesOfBuilding = (bytes: Uint8Array, most: number): Promise<BuildingShapes> =>
  shapesBy('buildings', bytes, [String(most)]);

export const shapesOfStep = (bytes: Uint8Array, options: ShapeOptions): Promise<ShapesFound> =>
  shapesBy('shapes', bytes, [JSON.stringify(options)]);
