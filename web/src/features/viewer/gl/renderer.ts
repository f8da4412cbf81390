/**
 * Draws a scene with WebGL: only blocks in sight, the longest lines first, no more in a frame than there is time for;
 * while the view stands still, frame by frame the rest. Words are drawn by the caller's 2D context.
 */
import type { SceneHead } from '@ovrel/core/scene';
import type { Camera } from '../camera.ts';
import { endAt, longerThan, partAt, type Arranged, type Block } from './arrange.ts';
import { fillFragment, fillVertex, lineFragment, lineVertex, wideFragment, wideVertex } from './shaders.ts';

export interface Drawable {
  readonly head: SceneHead;
  readonly arranged: Arranged;
  readonly corners: Float32Array;
  readonly triangleStyle: Uint16Array;
  readonly trianglePart: Uint32Array;
}

/** CSS pixels a millimetre of pen. */
const PEN = 3.2;
/** Time of a frame that is aimed at, in milliseconds: while the view moves, and while it is refined. */
const MOVING = 45;
const STILL = 90;
/** Words smaller than this many CSS pixels are not drawn. */
const LEGIBLE = 3.5;
const MOST_WORDS = 3000;
const GHOST: readonly [number, number, number, number] = [0.09, 0.13, 0.17, 0.3];

interface View extends Camera {
  readonly width: number;
  readonly height: number;
  readonly ratio: number;
  readonly ghost: boolean;
}

interface Run {
  readonly first: number;
  readonly count: number;
}

const families = {
  monospace: '"IBM Plex Mono", monospace',
  serif: 'serif',
  other: '"Source Sans 3", sans-serif',
} as const;

export class SceneRenderer {
  readonly canvas: HTMLCanvasElement;
  private readonly gl: WebGL2RenderingContext;
  private readonly scene: Drawable;
  private readonly lines: Program;
  private readonly wides: Program;
  private readonly fills: Program;
  private hidden: ReadonlySet<number> = new Set();
  private stylesTexture: WebGLTexture | null = null;
  private dashTexture: WebGLTexture | null = null;
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
    this.loadStyles();
  }

  end(): void {
    this.gl.getExtension('WEBGL_lose_context')?.loseContext();
  }

  /** Layers that are not drawn, by their index in the scene's head. */
  hide(layers: ReadonlySet<number>): void {
    this.hidden = layers;
    this.last = undefined;
    this.loadStyles();
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
      this.waiting = this.plan(view);
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
    const {
      head: { origin, styles },
      arranged,
    } = this.scene;
    const [x = 0, y = 0] = origin;
    return partAt(
      arranged,
      (px - camera.x) / camera.scale - x,
      (py - camera.y) / camera.scale - y,
      reach / camera.scale,
      (k) => !this.hidden.has(styles[arranged.style[2 * k] as number]?.layer ?? -1),
    );
  }

  /** The end of a line nearest to a point of the canvas, in page coordinates. */
  endAt(camera: Camera, px: number, py: number, reach: number): readonly [number, number] | undefined {
    const {
      head: { origin, styles },
      arranged,
    } = this.scene;
    const [x = 0, y = 0] = origin;
    const end = endAt(
      arranged,
      (px - camera.x) / camera.scale - x,
      (py - camera.y) / camera.scale - y,
      reach / camera.scale,
      (k) => !this.hidden.has(styles[arranged.style[2 * k] as number]?.layer ?? -1),
    );
    return end && [end[0] + x, end[1] + y];
  }

  /** Draws the words that can be read. */
  words(c: CanvasRenderingContext2D, m: Camera, width: number, height: number, ghost: boolean): void {
    const { head } = this.scene;
    const [ox = 0, oy = 0] = head.origin;
    let left = MOST_WORDS;
    for (const w of head.words) {
      const style = head.styles[w.style];
      const [a = 1, b = 0, cc = 0, d = 1, e = 0, f = 0] = w.matrix;
      if (!style || this.hidden.has(style.layer)) continue;
      const rise = Math.hypot(cc, d) * w.size * m.scale;
      if (rise < LEGIBLE) continue;
      const x = (a * w.x + cc * w.y + e + ox) * m.scale + m.x;
      const y = (b * w.x + d * w.y + f + oy) * m.scale + m.y;
      const room = w.text.length * rise;
      if (x < -room || x > width + room || y < -room || y > height + room || --left < 0) continue;
      c.save();
      c.transform(
        a * m.scale,
        b * m.scale,
        cc * m.scale,
        d * m.scale,
        (e + ox) * m.scale + m.x,
        (f + oy) * m.scale + m.y,
      );
      c.font = `${w.weight} ${w.size}px ${w.family in families ? families[w.family as keyof typeof families] : families.other}`;
      c.textAlign = w.anchor === 'middle' ? 'center' : w.anchor;
      c.fillStyle = ghost ? 'rgba(23, 33, 43, 0.35)' : style.colour;
      c.fillText(w.text, w.x, w.y);
      c.restore();
    }
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
    gl.activeTexture(gl.TEXTURE0);
    gl.bindTexture(gl.TEXTURE_2D, this.stylesTexture);
    gl.uniform1i(program.at('styles'), 0);
    gl.activeTexture(gl.TEXTURE1);
    gl.bindTexture(gl.TEXTURE_2D, this.dashTexture);
    gl.uniform1i(program.at('rows'), 1);
    gl.bindVertexArray(program.array);
  }

  private fillAll(view: View): void {
    const count = this.scene.triangleStyle.length;
    if (!count) return;
    this.uniforms(this.fills, view);
    this.gl.drawArrays(this.gl.TRIANGLES, 0, 3 * count);
  }

  /** What is in sight, in the order in which it is drawn: long lines of every block, then shorter ones. */
  private plan(v: View): Run[] {
    const {
      arranged,
      head: { origin },
    } = this.scene;
    const [ox = 0, oy = 0] = origin;
    const x0 = -v.x / v.scale - ox;
    const y0 = -v.y / v.scale - oy;
    const x1 = (v.width - v.x) / v.scale - ox;
    const y1 = (v.height - v.y) / v.scale - oy;
    const seen = arranged.blocks.filter(({ box }) => box[2] >= x0 && box[0] <= x1 && box[3] >= y0 && box[1] <= y1);
    const pixel = 1 / v.scale;
    let from = new Map<Block, number>();
    return [24, 6, 1.5, 0.4, 0].flatMap((pixels) => {
      const next = new Map<Block, number>();
      const runs = seen.flatMap((block): Run[] => {
        const begin = from.get(block) ?? 0;
        const end = pixels ? longerThan(arranged, block, pixels * pixel) : block.count;
        next.set(block, Math.max(begin, end));
        // Of what is smaller than a dot, some are enough to show that something is there.
        const count = pixels
          ? end - begin
          : Math.min(
              block.count - begin,
              Math.max(
                64,
                Math.ceil(((block.box[2] - block.box[0]) / pixel) * ((block.box[3] - block.box[1]) / pixel) * 0.5),
              ),
            );
        return count > 0 ? [{ first: block.first + begin, count }] : [];
      });
      from = next;
      return runs;
    });
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

  private loadStyles(): void {
    const { gl } = this;
    const { styles } = this.scene.head;
    const rows: number[][] = [];
    const texels = new Float32Array(512 * 4 * Math.max(1, Math.ceil((styles.length * 2) / 512)));
    styles.forEach((s, i) => {
      const period = s.dashes.reduce((sum, d) => sum + Math.abs(d), 0);
      const n = parseInt(s.colour.slice(1), 16);
      let row = 0;
      if (period > 0 && rows.length < 250) {
        rows.push(pattern(s.dashes, period));
        row = rows.length - 1;
      }
      texels.set(
        [
          ((n >> 16) & 255) / 255,
          ((n >> 8) & 255) / 255,
          (n & 255) / 255,
          s.opacity,
          s.width ? -s.width / 2 : (s.pen * PEN) / 2,
          rows.length && period > 0 ? period : 0,
          row,
          this.hidden.has(s.layer) ? 0 : 1,
        ],
        i * 8,
      );
    });
    this.stylesTexture ??= gl.createTexture();
    texture(gl, this.stylesTexture, 512, texels.length / 2048, gl.RGBA32F, gl.RGBA, gl.FLOAT, texels);
    const bits = new Uint8Array(128 * Math.max(1, rows.length));
    rows.forEach((row, i) => bits.set(row, i * 128));
    this.dashTexture ??= gl.createTexture();
    texture(gl, this.dashTexture, 128, Math.max(1, rows.length), gl.R8, gl.RED, gl.UNSIGNED_BYTE, bits);
  }
}

/** 128 samples of one period: 255 for ink, 0 for a gap. */
export function pattern(dashes: readonly number[], period: number): number[] {
  const row = new Array<number>(128).fill(0);
  let at = 0;
  for (const d of dashes) {
    const end = at + Math.abs(d);
    if (d >= 0)
      for (
        let k = Math.floor((at / period) * 128);
        k <=
        Math.min(
          127,
          Math.max(Math.ceil((end / period) * 128) - 1, Math.floor((at / period) * 128) + (d === 0 ? 3 : 0)),
        );
        k++
      )
        row[k] = 255;
    at = end;
  }
  return row;
}

function texture(
  gl: WebGL2RenderingContext,
  handle: WebGLTexture | null,
  width: number,
  height: number,
  inner: number,
  format: number,
  type: number,
  data: ArrayBufferView,
): void {
  gl.bindTexture(gl.TEXTURE_2D, handle);
  gl.pixelStorei(gl.UNPACK_ALIGNMENT, 1);
  gl.texImage2D(gl.TEXTURE_2D, 0, inner, width, height, 0, format, type, data);
  for (const side of [gl.TEXTURE_MIN_FILTER, gl.TEXTURE_MAG_FILTER]) gl.texParameteri(gl.TEXTURE_2D, side, gl.NEAREST);
}

interface Attribute {
  readonly data?: Float32Array | Uint16Array | Uint32Array;
  /** A buffer of another program, read at another pace. */
  readonly share?: WebGLBuffer | undefined;
  readonly size: number;
  readonly stride?: number;
  readonly type?: number;
  /** Whole numbers stay whole. */
  readonly whole: boolean;
  /** Instances that share a value; 0 for a value a corner. */
  readonly each?: number;
}

class Program {
  readonly handle: WebGLProgram;
  readonly array: WebGLVertexArrayObject;
  readonly buffers: WebGLBuffer[] = [];
  private readonly gl: WebGL2RenderingContext;
  private readonly attributes: readonly Attribute[];
  private readonly known = new Map<string, WebGLUniformLocation | null>();

  constructor(gl: WebGL2RenderingContext, vertex: string, fragment: string, attributes: readonly Attribute[]) {
    this.gl = gl;
    this.attributes = attributes;
    this.handle = gl.createProgram();
    for (const [type, source] of [
      [gl.VERTEX_SHADER, vertex],
      [gl.FRAGMENT_SHADER, fragment],
    ] as const) {
      const shader = gl.createShader(type);
      if (!shader) throw new Error('The graphics processor takes no programs.');
      gl.shaderSource(shader, source);
      gl.compileShader(shader);
      gl.attachShader(this.handle, shader);
      if (!gl.getShaderParameter(shader, gl.COMPILE_STATUS))
        throw new Error(`The graphics processor refuses a program: ${gl.getShaderInfoLog(shader) ?? ''}`);
    }
    gl.linkProgram(this.handle);
    this.array = gl.createVertexArray();
    gl.bindVertexArray(this.array);
    attributes.forEach((a, i) => {
      const buffer = a.share ?? gl.createBuffer();
      this.buffers.push(buffer);
      gl.bindBuffer(gl.ARRAY_BUFFER, buffer);
      if (a.data) gl.bufferData(gl.ARRAY_BUFFER, a.data, gl.STATIC_DRAW);
      gl.enableVertexAttribArray(i);
      gl.vertexAttribDivisor(i, a.each ?? 0);
      this.point(i, a, 0);
    });
  }

  at(name: string): WebGLUniformLocation | null {
    if (!this.known.has(name)) this.known.set(name, this.gl.getUniformLocation(this.handle, name));
    return this.known.get(name) ?? null;
  }

  /** Four corners for each of `count` instances from `first` on. */
  instances(first: number, count: number): void {
    this.attributes.forEach((a, i) => {
      this.gl.bindBuffer(this.gl.ARRAY_BUFFER, this.buffers[i] ?? null);
      this.point(i, a, first * (a.stride ?? 0));
    });
    this.gl.drawArraysInstanced(this.gl.TRIANGLE_STRIP, 0, 4, count);
  }

  private point(i: number, a: Attribute, offset: number): void {
    const { gl } = this;
    const whole = a.data instanceof Uint16Array ? gl.UNSIGNED_SHORT : gl.UNSIGNED_INT;
    const type = a.type ?? (a.data instanceof Float32Array ? gl.FLOAT : whole);
    if (a.whole) gl.vertexAttribIPointer(i, a.size, type, a.stride ?? 0, offset);
    else gl.vertexAttribPointer(i, a.size, type, false, a.stride ?? 0, offset);
  }
}
