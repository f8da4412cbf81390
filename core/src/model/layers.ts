/** A picture that is made of layers, whatever file it comes from. */
import type { Box } from '../geometry/box.ts';
import type { Bitmap } from '../raster/bitmap.ts';

export interface PictureLayer {
  /** Identity in the file, where the format gives one. */
  readonly key: string | undefined;
  readonly kind: 'layer' | 'group';
  readonly name: string;
  /** Index of the group that holds it; −1 for none. Groups stand before what they hold. */
  readonly group: number;
  /** Hidden itself; it may also be in a hidden group. */
  readonly hidden: boolean;
  /** 0 to 1. */
  readonly opacity: number;
  /** In words of compositing: normal, multiply, screen … */
  readonly blend: string;
  /** Where its pixels lie on the canvas; undefined for groups and for layers without any. */
  readonly box: Box | undefined;
  /** Equal for equal content, as stored; different for the same pixels stored in another way. */
  readonly print: string;
  /** What it says, of layers of words. */
  readonly words?: string;
}

export interface LayeredPicture {
  readonly width: number;
  readonly height: number;
  /** Pixels an inch; undefined where the file does not say. */
  readonly density: number | undefined;
  /** From the top, as they are listed. */
  readonly layers: readonly PictureLayer[];
  /** Plain sentences about what was met and left out. */
  readonly notes: readonly string[];
  /** The pixels of one layer, as large as its box. Throws ReadError where they are damaged. */
  pixels(layer: number): Promise<Bitmap>;
  /** Layers as they are seen together, on the whole canvas: all that are not hidden, or only these. */
  compose(only?: ReadonlySet<number>): Promise<Bitmap>;
}

/** True for layers that are not seen, by themselves or by their groups. */
export function unseen(layers: readonly PictureLayer[], index: number): boolean {
  for (let k = index; k >= 0; k = (layers[k] as PictureLayer).group)
    if ((layers[k] as PictureLayer).hidden) return true;
  return false;
}

/** Names of the groups that hold a layer, outermost first, and its own. */
export function pathOf(layers: readonly PictureLayer[], index: number): string[] {
  const out: string[] = [];
  for (let k = index; k >= 0; k = (layers[k] as PictureLayer).group) out.unshift((layers[k] as PictureLayer).name);
  return out;
}

/** Layers without any pixels are not counted. */
export const painted = (layers: readonly PictureLayer[]): number[] =>
  layers.flatMap((l, k) => (l.kind === 'layer' && l.box ? [k] : []));

/** Most layers of a picture that is looked into. */
export const MOST_LAYERS = 2_000;
