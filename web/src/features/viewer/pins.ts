/** Where comments stand on the page: a small flag with a number, its foot on the place. */
import type { Camera } from './camera.ts';

export interface Pin {
  readonly id: string;
  readonly number: number;
  readonly page: string;
  readonly x: number;
  readonly y: number;
  /** The position of the part that it belongs to. */
  readonly part: number | null;
  readonly resolved: boolean;
  readonly selected: boolean;
}

const PLUM = '#6B2D5C';
const WIDTH = 20;
const HEIGHT = 18;
const STEM = 8;

export function drawPins(c: CanvasRenderingContext2D, pins: readonly Pin[], m: Camera): void {
  for (const pin of pins) {
    const x = pin.x * m.scale + m.x;
    const y = pin.y * m.scale + m.y;
    c.save();
    c.lineWidth = pin.selected ? 2.5 : 1.5;
    c.strokeStyle = PLUM;
    c.fillStyle = pin.resolved ? '#ffffff' : PLUM;
    c.beginPath();
    c.moveTo(x, y);
    c.lineTo(x, y - STEM - HEIGHT);
    c.lineTo(x + WIDTH, y - STEM - HEIGHT);
    c.lineTo(x + WIDTH, y - STEM);
    c.lineTo(x, y - STEM);
    c.fill();
    c.stroke();
    c.fillStyle = pin.resolved ? PLUM : '#ffffff';
    c.font = '600 12px "IBM Plex Mono", monospace';
    c.textAlign = 'center';
    c.fillText(String(pin.number), x + WIDTH / 2, y - STEM - 5);
    if (pin.selected) {
      c.beginPath();
      c.arc(x, y, 6, 0, 2 * Math.PI);
      c.stroke();
    }
    c.restore();
  }
}

/** The pin whose flag lies under a point of the canvas; the last drawn first. */
export function pinAt(pins: readonly Pin[], m: Camera, px: number, py: number): string | undefined {
  return [...pins].reverse().find((pin) => {
    const x = pin.x * m.scale + m.x;
    const y = pin.y * m.scale + m.y;
    return px >= x - 4 && px <= x + WIDTH + 3 && py >= y - STEM - HEIGHT - 3 && py <= y + 4;
  })?.id;
}
