/** Draws surfaces on white paper, in parallel projection, by its own small rasteriser. */
import type { Bitmap } from '../raster/bitmap.ts';
import type { Mesh, Point3 } from './mesh.ts';
import { cornerAt, eachPixel } from './raster.ts';
import { cross, dot, minus, unit } from './vector.ts';

export interface Drawn {
  readonly mesh: Mesh;
  /** Red, green and blue, 0 to 255. */
  readonly colour: readonly [number, number, number];
}

/** Each pixel is looked at as so many by so many. */
const FINE = 2;
const MARGIN = 0.06;
/** From the right, in front and above. */
const TOWARDS: Point3 = [0.52, -0.72, 0.46];
const UP: Point3 = [0, 0, 1];
const LIGHT: Point3 = [0.35, -0.6, 0.72];
const DARKEST = 0.42;
const INK = [23, 33, 43] as const;
/** Neighbouring faces whose directions differ by more have an edge between them, as a cosine. */
const CREASE = 0.86;

/** `side` is the longer one of the picture; undefined where there is nothing to draw. */
export function drawSurfaces(surfaces: readonly Drawn[], side: number): Bitmap | undefined {
  const view = viewOf(surfaces);
  if (!view) return undefined;
  const scale = (side * FINE * (1 - 2 * MARGIN)) / Math.max(view.width, view.height);
  const size = (length: number): number => Math.max(1, Math.round(length * scale + 2 * MARGIN * side * FINE));
  const [width, height] = [FINE * Math.ceil(size(view.width) / FINE), FINE * Math.ceil(size(view.height) / FINE)];
  const sheet = new Sheet(width, height);
  for (const { mesh, colour } of surfaces) {
    const placed = new Float64Array(mesh.points.length);
    for (let p = 0; p < placed.length; p += 3) {
      const point: Point3 = [mesh.points[p] as number, mesh.points[p + 1] as number, mesh.points[p + 2] as number];
      placed[p] = (dot(point, view.right) - view.left) * scale + (width - view.width * scale) / 2;
      placed[p + 1] = (view.top - dot(point, view.up)) * scale + (height - view.height * scale) / 2;
      placed[p + 2] = dot(point, view.towards) * scale;
    }
    for (let t = 0; t < mesh.triangles.length; t += 3) sheet.fill(mesh, placed, t, colour, view.towards);
  }
  return sheet.finish();
}

interface View {
  readonly right: Point3;
  readonly up: Point3;
  readonly towards: Point3;
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly height: number;
}

function viewOf(surfaces: readonly Drawn[]): View | undefined {
  const towards = unit(TOWARDS);
  const right = unit(cross(UP, towards));
  const up = cross(towards, right);
  let [left, bottom, far, top] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const { mesh } of surfaces)
    for (let p = 0; p < mesh.points.length; p += 3) {
      const point: Point3 = [mesh.points[p] as number, mesh.points[p + 1] as number, mesh.points[p + 2] as number];
      const [x, y] = [dot(point, right), dot(point, up)];
      left = Math.min(left, x);
      far = Math.max(far, x);
      bottom = Math.min(bottom, y);
      top = Math.max(top, y);
    }
  if (!Number.isFinite(left + far + bottom + top)) return undefined;
  const least = Math.max(far - left, top - bottom) * 1e-3 || 1;
  return { right, up, towards, left, top, width: Math.max(far - left, least), height: Math.max(top - bottom, least) };
}

/** Pixels with how near what they show is, and where its face looks. */
class Sheet {
  readonly width: number;
  readonly height: number;
  private readonly colour: Uint8ClampedArray;
  private readonly near: Float32Array;
  private readonly normal: Float32Array;

  constructor(width: number, height: number) {
    this.width = width;
    this.height = height;
    this.colour = new Uint8ClampedArray(3 * width * height).fill(255);
    this.near = new Float32Array(width * height).fill(-Infinity);
    this.normal = new Float32Array(3 * width * height);
  }

  fill(mesh: Mesh, placed: Float64Array, t: number, colour: Drawn['colour'], towards: Point3): void {
    const [a, b, c] = [0, 1, 2].map((k) => mesh.triangles[t + k] as number) as [number, number, number];
    const at = (p: number): Point3 => [
      mesh.points[3 * p] as number,
      mesh.points[3 * p + 1] as number,
      mesh.points[3 * p + 2] as number,
    ];
    const natural = unit(cross(minus(at(b), at(a)), minus(at(c), at(a))));
    // Faces are seen from both sides: many models are not closed.
    const normal: Point3 = dot(natural, towards) < 0 ? [-natural[0], -natural[1], -natural[2]] : natural;
    const shade = DARKEST + (1 - DARKEST) * Math.max(0, dot(normal, unit(LIGHT)));
    const [first, second, third] = [cornerAt(placed, a), cornerAt(placed, b), cornerAt(placed, c)];
    eachPixel(first, second, third, this, (pixel, near) => {
      if (near <= (this.near[pixel] as number)) return;
      this.near[pixel] = near;
      for (const k of [0, 1, 2] as const) {
        this.colour[3 * pixel + k] = colour[k] * shade;
        this.normal[3 * pixel + k] = normal[k];
      }
    });
  }

  /** With edges drawn, and several pixels made one. */
  finish(): Bitmap {
    const [width, height] = [this.width / FINE, this.height / FINE];
    const data = new Uint8ClampedArray(4 * width * height);
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const sum = [0, 0, 0];
        for (let k = 0; k < FINE * FINE; k++) {
          const pixel = (y * FINE + Math.floor(k / FINE)) * this.width + x * FINE + (k % FINE);
          const isEdge = this.isEdge(pixel);
          for (let c = 0; c < 3; c++)
            sum[c] = (sum[c] as number) + (isEdge ? (INK[c] as number) : (this.colour[3 * pixel + c] as number));
        }
        const at = 4 * (y * width + x);
        for (let c = 0; c < 3; c++) data[at + c] = (sum[c] as number) / (FINE * FINE);
        data[at + 3] = 255;
      }
    return { width, height, data };
  }

  /** Where the paper begins, another body stands behind, or faces meet at an angle. */
  private isEdge(pixel: number): boolean {
    const near = this.near[pixel] as number;
    if (near === -Infinity) return false;
    for (const other of [pixel + 1, pixel + this.width]) {
      if (other >= this.near.length) continue;
      const far = this.near[other] as number;
      if (far === -Infinity || this.turns(pixel, other) < CREASE) return true;
      if (Math.abs(near - far) > 0.02 * this.width && this.turns(pixel, other) > 0.999) return true;
    }
    return [pixel - 1, pixel - this.width].some((other) => other >= 0 && this.near[other] === -Infinity);
  }

  private turns(p: number, q: number): number {
    let sum = 0;
    for (let k = 0; k < 3; k++) sum += (this.normal[3 * p + k] as number) * (this.normal[3 * q + k] as number);
    return sum;
  }
}
