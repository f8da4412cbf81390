/** How much room words take; an estimate, since there are no font metrics here. */
import type { Lettering } from '../model/design.ts';
import type { Box } from './box.ts';
import { applyX, applyY, type Matrix } from './matrix.ts';

/** Mean advance of Latin letters in common faces, in ems. */
export const ADVANCE = 0.54;
const ASCENT = 0.78;
const DESCENT = 0.22;

/** Estimated bounds on the page. */
export function letteringBox(l: Lettering, m: Matrix): Box | undefined {
  let box: [number, number, number, number] | undefined;
  for (const run of l.runs) {
    const w = run.text.length * l.size * ADVANCE;
    const left = run.x - { start: 0, middle: w / 2, end: w }[l.anchor];
    for (const [px, py] of [
      [left, run.y - l.size * ASCENT],
      [left + w, run.y - l.size * ASCENT],
      [left, run.y + l.size * DESCENT],
      [left + w, run.y + l.size * DESCENT],
    ] as const) {
      const x = applyX(m, px, py);
      const y = applyY(m, px, py);
      box = box ? [Math.min(box[0], x), Math.min(box[1], y), Math.max(box[2], x), Math.max(box[3], y)] : [x, y, x, y];
    }
  }
  return box?.every(Number.isFinite) ? box : undefined;
}
