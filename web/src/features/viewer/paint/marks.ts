/** What changed, drawn over the sheets: outlines, arrows, marks, and a frame around what is chosen. */
import type { Change } from '@ovrel/core/contract';
import type { Box, Camera } from '../camera.ts';
import { inkOf, signOf } from '../looks.ts';
import { drawChange } from './outlines.ts';
import { INK, PAPER, rectOf, type Painted } from './scene.ts';

/** Marks beside parts are left out above this number; they would cover the drawing. */
const MOST_MARKS = 150;

export type ShownSides = 'a' | 'b' | 'both';

export function changes(c: CanvasRenderingContext2D, scene: Painted, m: Camera, side: ShownSides): void {
  const marks = scene.changes.length <= MOST_MARKS;
  for (const change of scene.changes) drawChange(c, change, scene.outlines[change.id] ?? {}, m, side);
  // Marks that would cover one another are left out; the first in the list keeps its place.
  const taken = new Set<string>();
  for (const change of marks ? scene.changes : []) mark(c, change, m, side, taken);
  halo(c, scene, m);
  if (scene.area) areaFrame(c, scene.area, m);
}

function areaFrame(c: CanvasRenderingContext2D, box: Box, m: Camera): void {
  c.save();
  c.strokeStyle = INK;
  c.setLineDash([2, 4]);
  c.strokeRect(...rectOf(box, m));
  c.restore();
}

function mark(c: CanvasRenderingContext2D, change: Change, m: Camera, side: ShownSides, taken: Set<string>): void {
  const latest = side === 'b' ? change.boxB : (change.boxB ?? change.boxA);
  const box = side === 'a' ? change.boxA : latest;
  if (!box) return;
  // Places have the number that the list gives them.
  const text = `${signOf[change.kind]}${change.part.kind === 'place' ? (/^\d+/.exec(change.part.name)?.[0] ?? '') : ''}`;
  const x = box[0] * m.scale + m.x;
  const y = box[1] * m.scale + m.y;
  const cells = [0, 1].flatMap((i) => [0, 1].map((j) => `${Math.floor(x / 24) + i},${Math.floor(y / 16) + j}`));
  if (cells.some((cell) => taken.has(cell))) return;
  for (const cell of cells) taken.add(cell);
  c.font = '600 11px "IBM Plex Mono", monospace';
  const w = c.measureText(text).width + 6;
  c.fillStyle = PAPER;
  c.fillRect(x - w, y - 14, w, 14);
  c.strokeStyle = inkOf[change.kind];
  c.fillStyle = inkOf[change.kind];
  c.lineWidth = 1;
  c.strokeRect(x - w + 0.5, y - 13.5, w - 1, 13);
  c.textAlign = 'left';
  c.fillText(text, x - w + 3, y - 3);
}

/** A frame around the chosen change; it draws in from outside when the view has flown there. */
export function halo(c: CanvasRenderingContext2D, scene: Painted, m: Camera): void {
  const change = scene.changes.find((x) => x.id === scene.selected);
  if (!change) return;
  for (const box of [change.boxA, change.boxB]) {
    if (!box) continue;
    const grow = 7 + (1 - scene.pulse) * 22;
    c.save();
    c.strokeStyle = inkOf[change.kind];
    c.globalAlpha = 0.4 + 0.6 * scene.pulse;
    c.lineWidth = 2;
    c.strokeRect(...rectOf(box, m, grow));
    c.restore();
  }
}
