/** Triangles on a sheet of pixels. */

/** A corner: x and y in pixels, and how near it is. */
export type Corner = readonly [x: number, y: number, near: number];

export interface Sheet {
  readonly width: number;
  readonly height: number;
}

/** Each pixel whose middle a triangle covers, by its number, with how near the triangle is there. */
export function eachPixel(
  [ax, ay, az]: Corner,
  [bx, by, bz]: Corner,
  [cx, cy, cz]: Corner,
  { width, height }: Sheet,
  visit: (pixel: number, near: number) => void,
): void {
  const area = (bx - ax) * (cy - ay) - (cx - ax) * (by - ay);
  // Seen from its edge it covers nothing.
  if (area === 0) return;
  const left = Math.max(0, Math.ceil(Math.min(ax, bx, cx) - 0.5));
  const right = Math.min(width - 1, Math.floor(Math.max(ax, bx, cx) - 0.5));
  const top = Math.max(0, Math.ceil(Math.min(ay, by, cy) - 0.5));
  const bottom = Math.min(height - 1, Math.floor(Math.max(ay, by, cy) - 0.5));
  for (let y = top; y <= bottom; y++)
    for (let x = left; x <= right; x++) {
      const [px, py] = [x + 0.5, y + 0.5];
      const u = ((bx - px) * (cy - py) - (cx - px) * (by - py)) / area;
      const v = ((cx - px) * (ay - py) - (ax - px) * (cy - py)) / area;
      if (u < 0 || v < 0 || u + v > 1) continue;
      visit(y * width + x, u * az + v * bz + (1 - u - v) * cz);
    }
}

/** Of points that were placed on the sheet: x, y and nearness of each. */
export const cornerAt = (placed: Float64Array, point: number): Corner => [
  placed[3 * point] as number,
  placed[3 * point + 1] as number,
  placed[3 * point + 2] as number,
];
