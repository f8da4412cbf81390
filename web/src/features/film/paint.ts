/** A frame on its canvas, what changed since the one before lightly marked. */
import { marked } from '@ovrel/core/marked';

/** Draws `now` at the top left of a canvas of that size; `before` is what it is marked against. */
export function paintFrame(
  canvas: HTMLCanvasElement,
  now: ImageBitmap,
  before: ImageBitmap | null | undefined,
  colour: readonly [number, number, number],
): void {
  canvas.width = now.width;
  canvas.height = now.height;
  const context = canvas.getContext('2d', { willReadFrequently: true });
  if (!context) return;
  if (!before) {
    context.drawImage(now, 0, 0);
    return;
  }
  const { width, height } = now;
  const shown = (picture: ImageBitmap): ImageData => {
    context.fillStyle = '#ffffff';
    context.fillRect(0, 0, width, height);
    context.drawImage(picture, 0, 0);
    return context.getImageData(0, 0, width, height);
  };
  const earlier = shown(before);
  const { data } = marked(earlier, shown(now), colour);
  context.putImageData(new ImageData(Uint8ClampedArray.from(data), width, height), 0, 0);
}

/** The colour of a custom property as numbers; the plum of the interface where it is none. */
export function colourOf(name: string): readonly [number, number, number] {
  const text = getComputedStyle(document.documentElement).getPropertyValue(name).trim();
  const digits = /^#([0-9a-f]{6})$/i.exec(text)?.[1] ?? '6f2d62';
  const value = Number.parseInt(digits, 16);
  return [value >> 16, (value >> 8) & 255, value & 255];
}
