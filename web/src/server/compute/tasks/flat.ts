import { flatDesign, flatViewsOf, open, writtenFlat, type Solid } from '@ovrel/core';
import type { FlatFormat } from '@ovrel/core/contract';
import type { Source, Task } from '../task.ts';

interface Input {
  readonly source: Source;
  /** Number of a view; a plan at `cut` goes before it. */
  readonly view: number;
  readonly cut?: number;
  readonly format: FlatFormat;
}

const solidOf = async ({ bytes, name }: Source): Promise<Solid | undefined> => {
  const { kinds, design } = await open(bytes, name);
  return kinds[0] === 'solid' && design ? (design as Solid) : undefined;
};

/** A model drawn flat, in UTF-8; empty where it is no model, or nothing of it is seen so. */
export const flat: Task<Input, Uint8Array> = async ({ source, view: number, cut, format }) => {
  const solid = await solidOf(source);
  const view = solid && (cut === undefined ? flatViewsOf(solid)[number] : flatViewsOf(solid, cut)[0]);
  const design = view && flatDesign(solid, [view]);
  if (!design || design.pages.length === 0) return new Uint8Array();
  return writtenFlat(design, format);
};

/** What a model can be drawn as, by name; nothing where it is none. */
export const flatViews: Task<{ readonly source: Source }, readonly string[]> = async ({ source }) => {
  const solid = await solidOf(source);
  return solid ? flatViewsOf(solid).map(({ name }) => name) : [];
};
