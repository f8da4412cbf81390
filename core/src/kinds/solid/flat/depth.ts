/** How near surfaces lie to whoever looks, pixel by pixel: what is behind them is hidden. */

import { cornerAt, eachPixel, type Corner } from '../../../mesh/raster.ts';

/** A surface on the sheet: x and y in pixels, and how near, for each point. */
export interface Flattened {
  readonly places: Float64Array;
  readonly triangles: Uint32Array;
}

export class DepthSheet {
  readonly width: number;
  readonly height: number;
  private readonly nearest: Float32Array;
  /** What is nearer is cut away. */
  private readonly cut: number;

  constructor(width: number, height: number, cut: number) {
    this.width = width;
    this.height = height;
    this.cut = cut;
    this.nearest = new Float32Array(width * height).fill(-Infinity);
  }

  fill({ places, triangles }: Flattened): void {
    for (let t = 0; t < triangles.length; t += 3) {
      const [a, b, c] = [0, 1, 2].map((k) => cornerAt(places, triangles[t + k] as number)) as [Corner, Corner, Corner];
      eachPixel(a, b, c, this, (pixel, near) => {
        if (near <= this.cut && near > (this.nearest[pixel] as number)) this.nearest[pixel] = near;
      });
    }
  }

  /** Whether a place is behind something all around; at the edge of what hides it, it is still seen. */
  hides(x: number, y: number, depth: number, slack: number): boolean {
    const [column, row] = [Math.floor(x), Math.floor(y)];
    for (let dy = -1; dy <= 1; dy++)
      for (let dx = -1; dx <= 1; dx++) {
        const [px, py] = [column + dx, row + dy];
        if (px < 0 || py < 0 || px >= this.width || py >= this.height) return false;
        if ((this.nearest[py * this.width + px] as number) <= depth + slack) return false;
      }
    return true;
  }
}
