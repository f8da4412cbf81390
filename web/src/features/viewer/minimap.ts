/** A small page in the corner: where the changes are dense, and what part of the page is seen. */
import type { Change } from '@ovrel/core/contract';
import type { Box, Camera } from './camera.ts';

const WIDTH = 150;
const MARGIN = 12;
const CELLS = 30;

export interface Minimap {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  /** CSS pixels a unit of the page. */
  readonly scale: number;
}

/** Where it stands; undefined where the whole page is in sight, or too little room. */
export function minimapIn(page: Box, m: Camera, width: number, height: number): Minimap | undefined {
  const w = page[2] - page[0];
  const h = page[3] - page[1];
  if (!(w > 0 && h > 0) || width < 420 || height < 300) return undefined;
  const seen =
    page[0] * m.scale + m.x >= -2 &&
    page[1] * m.scale + m.y >= -2 &&
    page[2] * m.scale + m.x <= width + 2 &&
    page[3] * m.scale + m.y <= height + 2;
  if (seen) return undefined;
  const scale = Math.min(WIDTH / w, (WIDTH * 0.8) / h);
  return { x: width - MARGIN - w * scale, y: height - MARGIN - h * scale, width: w * scale, height: h * scale, scale };
}

/** Changes a cell of the page, row by row, and the most of one cell. */
export function density(
  changes: readonly Change[],
  page: Box,
): { readonly counts: Uint32Array; readonly most: number; readonly columns: number; readonly rows: number } {
  const w = page[2] - page[0];
  const h = page[3] - page[1];
  const columns = Math.max(1, Math.round(w >= h ? CELLS : (CELLS * w) / h));
  const rows = Math.max(1, Math.round(w >= h ? (CELLS * h) / w : CELLS));
  const counts = new Uint32Array(columns * rows);
  let most = 0;
  for (const change of changes) {
    const box = change.boxB ?? change.boxA;
    if (!box) continue;
    const column = Math.floor((((box[0] + box[2]) / 2 - page[0]) / w) * columns);
    const row = Math.floor((((box[1] + box[3]) / 2 - page[1]) / h) * rows);
    const cell = Math.min(rows - 1, Math.max(0, row)) * columns + Math.min(columns - 1, Math.max(0, column));
    const n = (counts[cell] ?? 0) + 1;
    counts[cell] = n;
    most = Math.max(most, n);
  }
  return { counts, most, columns, rows };
}

export function drawMinimap(
  c: CanvasRenderingContext2D,
  map: Minimap,
  changes: readonly Change[],
  page: Box,
  m: Camera,
  width: number,
  height: number,
): void {
  const { counts, most, columns, rows } = density(changes, page);
  const cw = map.width / columns;
  const ch = map.height / rows;
  c.save();
  c.fillStyle = '#ffffff';
  c.strokeStyle = '#17212b';
  c.lineWidth = 1;
  c.fillRect(map.x, map.y, map.width, map.height);
  c.fillStyle = '#6D28D9';
  counts.forEach((n, i) => {
    if (!n) return;
    c.globalAlpha = 0.25 + 0.75 * Math.sqrt(n / most);
    c.fillRect(map.x + (i % columns) * cw, map.y + Math.floor(i / columns) * ch, Math.max(cw, 2), Math.max(ch, 2));
  });
  c.globalAlpha = 1;
  c.strokeRect(map.x - 0.5, map.y - 0.5, map.width + 1, map.height + 1);
  const x0 = Math.max(0, (-m.x / m.scale - page[0]) * map.scale);
  const y0 = Math.max(0, (-m.y / m.scale - page[1]) * map.scale);
  const x1 = Math.min(map.width, ((width - m.x) / m.scale - page[0]) * map.scale);
  const y1 = Math.min(map.height, ((height - m.y) / m.scale - page[1]) * map.scale);
  c.lineWidth = 2;
  if (x1 > x0 && y1 > y0) c.strokeRect(map.x + x0, map.y + y0, Math.max(x1 - x0, 4), Math.max(y1 - y0, 4));
  c.restore();
}

/** The camera that puts the point of the map under (px, py) in the middle of the view; undefined beside the map. */
export function throughMinimap(
  map: Minimap,
  page: Box,
  m: Camera,
  px: number,
  py: number,
  width: number,
  height: number,
): Camera | undefined {
  if (px < map.x || py < map.y || px > map.x + map.width || py > map.y + map.height) return undefined;
  const x = page[0] + (px - map.x) / map.scale;
  const y = page[1] + (py - map.y) / map.scale;
  return { scale: m.scale, x: width / 2 - x * m.scale, y: height / 2 - y * m.scale };
}
