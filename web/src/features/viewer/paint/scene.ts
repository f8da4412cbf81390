/** What is painted, and where. */
import type { Change } from '@ovrel/core/contract';
import type { ChangeOutlines } from '@ovrel/core';
import type { Box, Camera } from '../camera.ts';
import type { SceneRenderer } from '../gl/renderer.ts';
import type { Showing } from '../looks.ts';
import type { Spot } from '../measure.ts';
import type { Pin } from '../pins.ts';
import type { Frame } from './frames.ts';

export interface Sheet {
  /** A picture that the browser draws. */
  readonly image?: CanvasImageSource;
  /** Or a page that is drawn from its parts. */
  readonly renderer?: SceneRenderer;
  /** The part of the design that the image shows. */
  readonly box: Box;
  /** A part of it, drawn more finely. */
  readonly detail?: { readonly image: CanvasImageSource; readonly box: Box } | undefined;
  /** From pixels of the image to the page, where it does not just fill its box. */
  readonly matrix?: readonly number[] | undefined;
}

export interface Painted {
  readonly look: Showing;
  readonly a: Sheet | undefined;
  readonly b: Sheet | undefined;
  readonly comparing: boolean;
  readonly changes: readonly Change[];
  readonly outlines: ChangeOutlines['outlines'];
  /** True where both sides are pictures without parts: the overlay shows the difference of pixels. */
  readonly pixels: boolean;
  readonly selected: string | undefined;
  /** 0 to 1: how far the pulse around the selected change has run; 1 for none. */
  readonly pulse: number;
  readonly curtain: number;
  readonly blinkA: boolean;
  /** Points between which is measured, and what they say. */
  readonly measure?: { readonly points: readonly Spot[]; readonly words: string } | undefined;
  /** Comments that stand on this page. */
  readonly pins: readonly Pin[];
  /** Part of the page that the list is limited to. */
  readonly area?: Box | undefined;
  /** Parts of B that are pointed out. */
  readonly frames?: readonly Frame[];
  /** Of pictures: how much each square of the page differs, as an image over B's page. */
  readonly heat?: CanvasImageSource | undefined;
  /** Layers that a person switched; a change of it is a reason to draw anew. */
  readonly switched: ReadonlyMap<string, boolean>;
}

export interface Surface {
  readonly context: CanvasRenderingContext2D;
  readonly width: number;
  readonly height: number;
  readonly ratio: number;
  /** True while the view moves: what takes long may be drawn in part. */
  readonly moving: boolean;
}

export const PAPER = '#ffffff';
export const INK = '#17212b';

/** Left, top, width and height, in pixels of the surface. */
export type Rect = readonly [x: number, y: number, width: number, height: number];

/** Where a part of the page lies on the surface, and so much more on every side. */
export const rectOf = ([x0, y0, x1, y1]: Box, m: Camera, grow = 0): Rect => [
  x0 * m.scale + m.x - grow,
  y0 * m.scale + m.y - grow,
  (x1 - x0) * m.scale + 2 * grow,
  (y1 - y0) * m.scale + 2 * grow,
];

/** Draws within a rectangle only. */
export function clipped(c: CanvasRenderingContext2D, rect: Rect, draw: () => void): void {
  c.save();
  c.beginPath();
  c.rect(...rect);
  c.clip();
  draw();
  c.restore();
}
