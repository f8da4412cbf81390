/** Sheets: a version's page as a picture, or drawn from its parts. */
import type { Camera } from '../camera.ts';
import { PAPER, rectOf, type Sheet, type Surface } from './scene.ts';

export function paper(c: CanvasRenderingContext2D, { box }: Sheet, m: Camera): void {
  c.fillStyle = PAPER;
  c.fillRect(...rectOf(box, m));
}

export function sheet(surface: Surface, s: Sheet, m: Camera, alpha: number, grey: boolean): void {
  paper(surface.context, s, m);
  picture(surface, s, m, alpha, grey);
}

export function picture(surface: Surface, s: Sheet, m: Camera, alpha: number, grey: boolean, smooth = true): void {
  const { context: c, width, height, ratio, moving } = surface;
  if (s.renderer) {
    c.drawImage(s.renderer.render(m, width, height, ratio, moving, grey), 0, 0, width, height);
    s.renderer.words(c, m, width, height, grey);
    return;
  }
  if (!s.image) return;
  c.save();
  c.globalAlpha = alpha;
  if (grey) c.filter = 'grayscale(1)';
  c.imageSmoothingQuality = 'high';
  c.imageSmoothingEnabled = smooth && m.scale < 4;
  const { box, matrix } = s;
  if (matrix) {
    c.transform(m.scale, 0, 0, m.scale, m.x, m.y);
    c.transform(...(matrix as [number, number, number, number, number, number]));
    c.drawImage(s.image, 0, 0);
  } else {
    for (const { image, box: part } of [{ image: s.image, box }, ...(s.detail ? [s.detail] : [])])
      c.drawImage(image, ...rectOf(part, m));
  }
  c.restore();
}
