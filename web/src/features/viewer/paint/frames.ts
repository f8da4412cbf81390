/** Frames around parts, each with a letter: who drew them, or that they are picked. */
import type { Box, Camera } from '../camera.ts';

export interface Frame {
  readonly box: Box;
  /** Name of the page that it stands on. */
  readonly page: string;
  readonly letter: string;
  /** Which of the styles; −1 for what is picked. */
  readonly style: number;
}

/** Colours and dashes, so that none is told by its colour alone. Not those of a comparison. */
export const frameStyles: readonly { readonly colour: string; readonly dash: readonly number[] }[] = [
  { colour: '#6b2d5c', dash: [] },
  { colour: '#2f6f3e', dash: [7, 3] },
  { colour: '#8c3b12', dash: [2, 3] },
  { colour: '#2b5c8a', dash: [10, 3, 2, 3] },
  { colour: '#5d5a12', dash: [4, 4] },
  { colour: '#8a1f4b', dash: [12, 4] },
];
const PICKED = { colour: '#17212b', dash: [] } as const;
/** Frames that are smaller, in pixels, have no letter. */
const ROOM = 14;
/** Letters that are drawn at most: more cannot be told apart. */
const MOST_LETTERS = 400;

export function drawFrames(c: CanvasRenderingContext2D, frames: readonly Frame[], m: Camera): void {
  c.save();
  c.font = '700 11px sans-serif';
  c.textBaseline = 'top';
  let letters = 0;
  for (const { box, letter, style } of frames) {
    const { colour, dash } = style < 0 ? PICKED : (frameStyles[style % frameStyles.length] ?? PICKED);
    const [x, y] = [box[0] * m.scale + m.x, box[1] * m.scale + m.y];
    const [w, h] = [(box[2] - box[0]) * m.scale, (box[3] - box[1]) * m.scale];
    c.strokeStyle = colour;
    c.lineWidth = style < 0 ? 2.5 : 1.5;
    c.setLineDash([...dash]);
    c.strokeRect(x - 2, y - 2, w + 4, h + 4);
    const isSmall = style >= 0 && Math.max(w, h) < ROOM;
    if (!letter || isSmall || letters++ > MOST_LETTERS) continue;
    c.setLineDash([]);
    c.fillStyle = '#ffffff';
    c.fillRect(x - 2, y - 15, 13, 13);
    c.fillStyle = colour;
    c.fillText(letter, x + 1, y - 13);
  }
  c.restore();
}
