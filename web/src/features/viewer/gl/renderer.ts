/**
 * Draws a scene with WebGL: only blocks in sight, the longest lines first, no more in a frame than there is time for;
 * while the view stands still, frame by frame the rest. Words are drawn by the caller's 2D context.
 */
import type { SceneHead } from '@ovrel/core/scene';
import type { Camera } from '../camera.ts';
import { endAt, partAt, type Arranged } from './arrange.ts';
import { planRuns, type Run } from './plan.ts';
import { Program } from './program.ts';
import { fillFragment, fillVertex, lineFragment, lineVertex, wideFragment, wideVertex } from './shaders.ts';
import { StyleTextures } from './styles.ts';
import { drawWords } from './words.ts';

export interface Drawable {
  readonly head: SceneHead;
  readonly arranged: Arranged;
  readonly corners: Float32Array;
  readonly triangleStyle: Uint16Array;
  readonly trianglePart: Uint32Array;
}

/** Time of a frame that is aimed at, in milliseconds: while the view moves, and while it is refined. */
const MOVING = 45;
const STILL = 90;
const GHOST: readonly [number, number, number, number] = [0.09, 0.13, 0.17, 0.3];

interface View extends Camera {
  readonly width: number;
  readonly height: number;
  readonly ratio: number;
  readonly ghost: boolean;
}

export class SceneRenderer {
  readonly canvas: HTMLCanvasElement;
  private readonly gl: WebGL2RenderingContext;
  private readonly scene: Drawable;
  private readonly lines: Program;
  private readonly wides: Program;
  private readonly fills: Program;
  private hidden: ReadonlySet<number> = new Set();
  private readonly styles: StyleTextures;
  private last: View | undefined;
  private waiting: Run[] = [];
  /** Segments that a frame can hold, by the pace of frames so far. */
  private pace = 600;
  private drawn = 0;

  /** Throws where the browser has no WebGL 2. */
  constructor(scene: Drawable) {
    this.scene = scene;
    this.canvas = document.createElement('canvas');
    const gl = this.canvas.getContext('webgl2', {
      antialias: false,
      preserveDrawingBuffer: true,
      premultipliedAlpha: true,
      depth: true,
    });
    if (!gl) throw new Error('This browser has no WebGL 2.');
    this.gl = gl;
    const { arranged } = scene;
    this.lines = new Program(gl, lineVertex, lineFragment, [
      { data: arranged.ends, size: 2, whole: false },
      { data: arranged.style, size: 1, whole: true },
      { data: arranged.part, size: 1, whole: true },
      { data: arranged.along, size: 1, whole: false },
    ]);
    this.wides = new Program(gl, wideVertex, wideFragment, [
      { share: this.lines.buffers[0], size: 4, stride: 16, whole: false, type: gl.FLOAT, each: 1 },
      { share: this.lines.buffers[1], size: 1, stride: 4, whole: true, type: gl.UNSIGNED_SHORT, each: 1 },
      { share: this.lines.buffers[2], size: 1, stride: 8, whole: true, type: gl.UNSIGNED_INT, each: 1 },
      { share: this.lines.buffers[3], size: 1, stride: 8, whole: false, type: gl.FLOAT, each: 1 },
    ]);
    const thrice = <T extends Uint16Array | Uint32Array>(list: T, out: T): T => {
      list.forEach((v, i) => out.fill(v, 3 * i, 3 * i + 3));
      return out;
    };
    this.fills = new Program(gl, fillVertex, fillFragment, [
      { data: scene.corners, size: 2, whole: false },
      { data: thrice(scene.triangleStyle, new Uint16Array(3 * scene.triangleStyle.length)), size: 1, whole: true },
      { data: thrice(scene.trianglePart, new Uint32Array(3 * scene.trianglePart.length)), size: 1, whole: true },
    ]);
    this.styles = new StyleTextures(gl, scene.head.styles);
  }

  end(): void {
    this.gl.getExtension('WEBGL_lose_context')?.loseContext();
  }

  /** Layers that are not drawn, by their index in the scene's head. */
  hide(layers: ReadonlySet<number>): void {
    this.hidden = layers;
    this.last = undefined;
    this.styles.load(layers);
  }

  /** True once everything in sight has been drawn for the last view. */
  get complete(): boolean {
    return this.waiting.length === 0;
  }

  /** Draws, or goes on drawing, what stands before the camera. The picture is in `canvas`. */
  render(
    camera: Camera,
    width: number,
    height: number,
    ratio: number,
    moving: boolean,
    ghost: boolean,
  ): HTMLCanvasElement {
    const { gl, last } = this;
    const view: View = { ...camera, width, height, ratio, ghost };
    const same = last && (Object.keys(view) as (keyof View)[]).every((k) => view[k] === last[k]);
    if (same && (moving || this.complete)) return this.canvas;
    const start = performance.now();
    if (!same) {
      const w = Math.max(1, Math.round(width * ratio));
      const h = Math.max(1, Math.round(height * ratio));
      if (this.canvas.width !== w || this.canvas.height !== h) {
        this.canvas.width = w;
        this.canvas.height = h;
      }
      this.last = view;
      gl.viewport(0, 0, w, h);
      gl.clearColor(0, 0, 0, 0);
      gl.clear(gl.COLOR_BUFFER_BIT | gl.DEPTH_BUFFER_BIT);
      gl.enable(gl.DEPTH_TEST);
      gl.depthFunc(gl.LEQUAL);
      gl.enable(gl.BLEND);
      gl.blendFunc(gl.ONE, gl.ONE_MINUS_SRC_ALPHA);
      this.fillAll(view);
      this.waiting = planRuns(this.scene.arranged, this.scene.head.origin, view);
    }
    this.drawn = this.spend(view, Math.max(2000, this.pace * (moving ? MOVING : STILL)), moving);
    // Reading one pixel waits until the frame is done, so that the pace is known.
    gl.readPixels(0, 0, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, new Uint8Array(4));
    const took = performance.now() - start;
    if (this.drawn > 1500)
      this.pace = Math.min(50_000, Math.max(30, this.pace * 0.6 + (this.drawn / Math.max(took, 1)) * 0.4));
    return this.canvas;
  }

  /** The part nearest to a point of the canvas, in CSS pixels. */
  partAt(camera: Camera, px: number, py: number, reach: number): number | undefined {
    const [x, y] = this.inScene(camera, px, py);
    return partAt(this.scene.arranged, x, y, reach / camera.scale, this.isShown);
  }

  /** The end of a line nearest to a point of the canvas, in page coordinates. */
  endAt(camera: Camera, px: number, py: number, reach: number): readonly [number, number] | undefined {
    const [x, y] = this.inScene(camera, px, py);
    const [ox = 0, oy = 0] = this.scene.head.origin;
    const end = endAt(this.scene.arranged, x, y, reach / camera.scale, this.isShown);
    return end && [end[0] + ox, end[1] + oy];
  }

  private inScene(m: Camera, px: number, py: number): readonly [number, number] {
    const [x = 0, y = 0] = this.scene.head.origin;
    return [(px - m.x) / m.scale - x, (py - m.y) / m.scale - y];
  }

  /** A segment whose layer is not hidden. */
  private readonly isShown = (k: number): boolean => {
    const { arranged, head } = this.scene;
    return !this.hidden.has(head.styles[arranged.style[2 * k] as number]?.layer ?? -1);
  };

  /** Draws the words that can be read. */
  words(c: CanvasRenderingContext2D, m: Camera, width: number, height: number, ghost: boolean): void {
    drawWords(c, this.scene.head, this.hidden, m, { width, height, ghost });
  }

  private uniforms(program: Program, v: View): void {
    const { gl } = this;
    const { origin, parts } = this.scene.head;
    const [x = 0, y = 0] = origin;
    gl.useProgram(program.handle);
    gl.uniform4f(program.at('view'), v.scale, v.scale, x * v.scale + v.x, y * v.scale + v.y);
    gl.uniform2f(program.at('size'), v.width, v.height);
    gl.uniform1f(program.at('parts'), parts + 2);
    gl.uniform4f(program.at('ghost'), ...(v.ghost ? GHOST : ([0, 0, 0, 0] as const)));
    this.styles.bind(program.at('styles'), program.at('rows'));
    gl.bindVertexArray(program.array);
  }

  private fillAll(view: View): void {
    const count = this.scene.triangleStyle.length;
    if (!count) return;
    this.uniforms(this.fills, view);
    this.gl.drawArrays(this.gl.TRIANGLES, 0, 3 * count);
  }

  /** Draws waiting runs worth about `budget` segments; gives how many were drawn. */
  private spend(view: View, budget: number, moving: boolean): number {
    const { gl } = this;
    const program = moving ? this.lines : this.wides;
    let spent = 0;
    if (!this.waiting.length) return 0;
    this.uniforms(program, view);
    let at = 0;
    for (; at < this.waiting.length && spent < budget; at++) {
      const run = this.waiting[at] as Run;
      const count = Math.min(run.count, Math.max(256, Math.ceil(budget - spent)));
      if (moving) gl.drawArrays(gl.LINES, 2 * run.first, 2 * count);
      else this.wides.instances(run.first, count);
      spent += count;
      if (count < run.count) {
        this.waiting[at] = { first: run.first + count, count: run.count - count };
        break;
      }
    }
    this.waiting.splice(0, at);
    return spent;
  }
}
