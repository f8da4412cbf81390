/** The outline of a changed part on either side, in the ink of its kind of change. */
import type { Change } from '@ovrel/core/contract';
import type { Outline } from '@ovrel/core';
import type { Box, Camera } from '../camera.ts';
import { inkOf } from '../looks.ts';
import type { ShownSides } from './marks.ts';
import { PAPER, rectOf } from './scene.ts';

/** How a line is drawn. */
interface Pen {
  readonly ink: string;
  readonly dash: readonly number[];
  readonly width: number;
  /** How much of the ink fills a closed outline, 0 to 1. */
  readonly fill: number;
}

/** A part of A that is not in B any more, and one that is there otherwise. */
const gone = (ink: string): Pen => ({ ink, dash: [7, 4], width: 2, fill: 0.14 });
const was = (ink: string): Pen => ({ ink, dash: [2, 3], width: 1.25, fill: 0 });

export function drawChange(
  c: CanvasRenderingContext2D,
  change: Change,
  outline: { a?: Outline | undefined; b?: Outline | undefined },
  m: Camera,
  side: ShownSides,
): void {
  const ink = inkOf[change.kind];
  const { kind } = change;
  if (side !== 'b' && change.boxA && kind !== 'added') {
    trace(c, outline.a, change.boxA, m);
    // The new words of a changed text stand alone; the old ones are in the list.
    const old = outline.a && kind === 'changed' ? { paths: outline.a.paths, closed: outline.a.closed } : outline.a;
    stroke(c, old, m, kind === 'removed' ? gone(ink) : was(ink));
  }
  if (side !== 'a' && change.boxB && kind !== 'removed') {
    trace(c, outline.b, change.boxB, m);
    if (kind === 'changed') {
      stroke(c, outline.b, m, { ink, dash: [], width: 4.5, fill: 0.1 });
      stroke(c, undefined, m, { ink: PAPER, dash: [], width: 1.5, fill: 0 });
    } else stroke(c, outline.b, m, { ink, dash: [], width: 2, fill: kind === 'added' ? 0.16 : 0.08 });
  }
  if (side === 'both' && kind === 'moved' && change.boxA && change.boxB)
    arrow(c, middle(change.boxA, m), middle(change.boxB, m), ink);
}

/** Makes the part's outline the current path; its box where there is none. */
function trace(c: CanvasRenderingContext2D, outline: Outline | undefined, box: Box, m: Camera): void {
  c.beginPath();
  const size = Math.max(box[2] - box[0], box[3] - box[1]) * m.scale;
  if (!outline?.paths.length || size < 2) {
    // Too small to see, or without lines: at least three pixels, so that nothing is invisible.
    const grow = Math.max(0, (3 - size) / 2) + (outline?.words ? 2 : 0);
    c.rect(...rectOf(box, m, grow));
    return;
  }
  outline.paths.forEach((path, k) => {
    for (let i = 0; i + 1 < path.length; i += 2) {
      const x = (path[i] as number) * m.scale + m.x;
      const y = (path[i + 1] as number) * m.scale + m.y;
      if (i) c.lineTo(x, y);
      else c.moveTo(x, y);
    }
    if (outline.closed[k]) c.closePath();
  });
}

function stroke(
  c: CanvasRenderingContext2D,
  outline: Outline | undefined,
  m: Camera,
  { ink, dash, width, fill }: Pen,
): void {
  c.save();
  c.setLineDash([...dash]);
  c.lineWidth = width;
  c.lineJoin = 'round';
  c.strokeStyle = ink;
  if (fill && (outline?.closed.some(Boolean) ?? true)) {
    c.globalAlpha = fill;
    c.fillStyle = ink;
    c.fill('evenodd');
    c.globalAlpha = 1;
  }
  c.stroke();
  if (outline?.words && outline.font) words(c, outline, m, ink);
  c.restore();
}

/**
 * Plain words for a kind of face are not the name of one; pages that are drawn from parts use the interface's own
 * faces for them.
 */
const generic: Readonly<Record<string, string>> = {
  serif: 'serif',
  monospace: '"IBM Plex Mono", monospace',
  'sans-serif': '"Source Sans 3", sans-serif',
  cursive: 'cursive',
  fantasy: 'fantasy',
  'system-ui': 'system-ui',
};

const familiesOf = (list: string): string =>
  list
    .split(',')
    .map((x) => x.trim().replace(/"/g, ''))
    .map((x) => generic[x] ?? `"${x}"`)
    .join(',');

function words(c: CanvasRenderingContext2D, { words: runs = [], font }: Outline, m: Camera, ink: string): void {
  if (!font) return;
  const [a = 1, b = 0, k = 0, d = 1, e = 0, f = 0] = font.matrix;
  c.save();
  c.transform(m.scale, 0, 0, m.scale, m.x, m.y);
  c.transform(a, b, k, d, e, f);
  c.font = `${font.weight} ${font.size}px ${familiesOf(font.family)}, sans-serif`;
  c.textAlign = ({ start: 'left', middle: 'center', end: 'right' } as const)[font.anchor as 'start' | 'middle' | 'end'];
  c.fillStyle = ink;
  for (const run of runs) c.fillText(run.text, run.x, run.y);
  c.restore();
}

const middle = (b: Box, m: Camera): readonly [number, number] => [
  ((b[0] + b[2]) / 2) * m.scale + m.x,
  ((b[1] + b[3]) / 2) * m.scale + m.y,
];

function arrow(
  c: CanvasRenderingContext2D,
  [x0, y0]: readonly [number, number],
  [x1, y1]: readonly [number, number],
  ink: string,
): void {
  const length = Math.hypot(x1 - x0, y1 - y0);
  if (length < 6) return;
  const ux = (x1 - x0) / length;
  const uy = (y1 - y0) / length;
  const head = Math.min(10, length / 2);
  c.save();
  c.strokeStyle = ink;
  c.fillStyle = ink;
  c.lineWidth = 1.5;
  c.beginPath();
  c.moveTo(x0, y0);
  c.lineTo(x1 - ux * head, y1 - uy * head);
  c.stroke();
  c.beginPath();
  c.moveTo(x1, y1);
  c.lineTo(x1 - ux * head - uy * head * 0.5, y1 - uy * head + ux * head * 0.5);
  c.lineTo(x1 - ux * head + uy * head * 0.5, y1 - uy * head - ux * head * 0.5);
  c.fill();
  c.restore();
}
