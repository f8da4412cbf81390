/** Two pictures over one another, told apart by colour. */
import type { Camera } from '../camera.ts';
import { inkOf } from '../looks.ts';
import { picture, sheet } from './sheets.ts';
import { clipped, PAPER, rectOf, type Painted, type Surface } from './scene.ts';

/** The picture in grey; what A has darker keeps A's colour, what B has darker B's. */
export function tinted(surface: Surface, scene: Painted, m: Camera): void {
  const { context: c, width, height } = surface;
  const { a, b } = scene;
  if (!a || !b) return;
  const greyA = layer(surface, (l) => picture({ ...surface, context: l }, a, m, 1, true));
  const greyB = layer(surface, (l) => picture({ ...surface, context: l }, b, m, 1, true));
  const whole = layer(surface, (l) => {
    l.drawImage(greyA, 0, 0, width, height);
    l.globalCompositeOperation = 'lighten';
    l.drawImage(greyB, 0, 0, width, height);
    l.globalCompositeOperation = 'source-over';
    l.fillStyle = 'rgb(255 255 255 / 0.4)';
    l.fillRect(0, 0, width, height);
    l.globalCompositeOperation = 'difference';
    for (const [dark, light, colour] of [
      [greyA, greyB, inkOf.removed],
      [greyB, greyA, inkOf.added],
    ] as const)
      l.drawImage(darker(surface, dark, light, colour), 0, 0, width, height);
  });
  clipped(c, rectOf(b.box, m), () => c.drawImage(whole, 0, 0, width, height));
}

function layer({ width, height, ratio }: Surface, draw: (context: CanvasRenderingContext2D) => void): OffscreenCanvas {
  const canvas = new OffscreenCanvas(Math.max(1, Math.round(width * ratio)), Math.max(1, Math.round(height * ratio)));
  const l = canvas.getContext('2d') as unknown as CanvasRenderingContext2D;
  l.setTransform(ratio, 0, 0, ratio, 0, 0);
  l.fillStyle = PAPER;
  l.fillRect(0, 0, width, height);
  draw(l);
  return canvas;
}

/** How much darker one is than the other, times what has to be taken from white to leave a colour. */
function darker(surface: Surface, dark: OffscreenCanvas, light: OffscreenCanvas, colour: string): OffscreenCanvas {
  const { width, height } = surface;
  return layer(surface, (l) => {
    // Dark + (white − light), cut off at white, turned over: what light has more.
    l.drawImage(dark, 0, 0, width, height);
    l.globalCompositeOperation = 'lighter';
    l.filter = 'invert(1)';
    l.drawImage(light, 0, 0, width, height);
    l.filter = 'none';
    l.globalCompositeOperation = 'difference';
    l.fillStyle = PAPER;
    l.fillRect(0, 0, width, height);
    l.globalCompositeOperation = 'multiply';
    l.fillStyle = `#${(0xffffff - parseInt(colour.slice(1), 16)).toString(16).padStart(6, '0')}`;
    l.fillRect(0, 0, width, height);
  });
}

/** What differs between two pictures stays dark; what is equal goes white. */
export function difference(surface: Surface, scene: Painted, m: Camera): void {
  if (!scene.a || !scene.b) return;
  const { context: c } = surface;
  sheet(surface, scene.a, m, 1, false);
  c.save();
  c.globalCompositeOperation = 'difference';
  picture(surface, scene.b, m, 1, false);
  // Equal pixels are black now; turned over, they are white.
  c.fillStyle = '#ffffff';
  c.fillRect(...rectOf(scene.b.box, m));
  c.restore();
}
