/** Contents whose parts are followed through a history: parts of drawings, lines, layers, squares of pictures. */
import type { Content } from '../kinds/content.ts';
import type { Step } from '../kinds/kind.ts';
import { layersAsParts } from '../kinds/picture/layers/pair.ts';
import { layerStep } from '../kinds/picture/layers/step.ts';
import { squaresAsParts, squareStep } from '../kinds/picture/squares.ts';
import { kindOf } from '../kinds/registry.ts';
import type { Design } from '../model/design.ts';
import type { LayeredPicture } from '../model/layers.ts';
import type { Picture } from '../model/picture.ts';

/** What is followed, and what it was read from. */
export type Followed =
  | { readonly by: 'drawing' | 'text'; readonly design: Design }
  | { readonly by: 'layers'; readonly design: Design; readonly layered: LayeredPicture }
  | { readonly by: 'squares'; readonly design: Design; readonly picture: Picture };

/** Undefined for contents that have nothing that could be followed. Throws ReadError where pixels are damaged. */
export async function followed({
  kinds: [kind],
  design,
  format,
  bytes,
  limits,
}: Content): Promise<Followed | undefined> {
  if ((kind === 'drawing' || kind === 'text') && design) return { by: kind, design };
  if (kind !== 'picture') return undefined;
  const layered = await format?.layers?.(bytes);
  if (layered && layered.layers.length > 1) return { by: 'layers', design: layersAsParts(layered), layered };
  const picture = await (await format?.read.picture?.(bytes, limits))?.page(0);
  return picture && { by: 'squares', design: squaresAsParts(picture), picture };
}

/** Undefined where one cannot be followed into the other. */
export async function stepInto(a: Followed, b: Followed): Promise<Step | undefined> {
  if (a.by === 'layers' && b.by === 'layers') return layerStep(a.layered, b.layered);
  if (a.by === 'squares' && b.by === 'squares') return squareStep(a.picture, b.picture);
  if (a.by === 'layers' || a.by === 'squares' || a.by !== b.by) return undefined;
  return kindOf(a.by).step?.(a.design, b.design, {});
}
