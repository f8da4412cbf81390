/** Styles and dashes, as textures that the programs look them up in. */
import type { SceneHead } from '@ovrel/core/scene';

/** CSS pixels a millimetre of pen. */
const PEN = 3.2;
/** Samples of one period of dashes. */
const SAMPLES = 128;
/** Samples that a dot, which has no length, is wide beside its own. */
const DOT = 3;
/** Rows of dashes that fit into a texture. */
const MOST_ROWS = 250;
/** Texels in a row of styles; each style takes two, of four numbers. */
const ROW = 512;
const NUMBERS = 8;

type Style = SceneHead['styles'][number];

export class StyleTextures {
  private readonly gl: WebGL2RenderingContext;
  private readonly styles: readonly Style[];
  private readonly colours: WebGLTexture | null;
  private readonly dashes: WebGLTexture | null;

  constructor(gl: WebGL2RenderingContext, styles: readonly Style[]) {
    this.gl = gl;
    this.styles = styles;
    this.colours = gl.createTexture();
    this.dashes = gl.createTexture();
    this.load(new Set());
  }

  /** Loads them anew; what is on a hidden layer is not drawn. */
  load(hidden: ReadonlySet<number>): void {
    const { gl, styles } = this;
    const rows: number[][] = [];
    const texels = new Float32Array(ROW * 4 * Math.max(1, Math.ceil((styles.length * 2) / ROW)));
    styles.forEach((style, i) => {
      const period = style.dashes.reduce((sum, d) => sum + Math.abs(d), 0);
      const isDashed = period > 0 && rows.length < MOST_ROWS;
      if (isDashed) rows.push(pattern(style.dashes, period));
      const row = isDashed ? rows.length - 1 : 0;
      const shown = hidden.has(style.layer) ? 0 : 1;
      texels.set([...inkOf(style), rows.length > 0 && period > 0 ? period : 0, row, shown], i * NUMBERS);
    });
    texture(gl, this.colours, ROW, texels.length / (4 * ROW), gl.RGBA32F, gl.RGBA, gl.FLOAT, texels);
    const bits = new Uint8Array(SAMPLES * Math.max(1, rows.length));
    rows.forEach((row, i) => bits.set(row, i * SAMPLES));
    texture(gl, this.dashes, SAMPLES, Math.max(1, rows.length), gl.R8, gl.RED, gl.UNSIGNED_BYTE, bits);
  }

  /** For the program that is used next. */
  bind(stylesAt: WebGLUniformLocation | null, rowsAt: WebGLUniformLocation | null): void {
    const { gl } = this;
    gl.activeTexture(gl.TEXTURE0);
    gl.bindTexture(gl.TEXTURE_2D, this.colours);
    gl.uniform1i(stylesAt, 0);
    gl.activeTexture(gl.TEXTURE1);
    gl.bindTexture(gl.TEXTURE_2D, this.dashes);
    gl.uniform1i(rowsAt, 1);
  }
}

/** Red, green, blue, opacity, and half the width: of the page where it is negative, of the screen otherwise. */
function inkOf({ colour, opacity, width, pen }: Style): number[] {
  const n = parseInt(colour.slice(1), 16);
  const rgb = [(n >> 16) & 255, (n >> 8) & 255, n & 255].map((v) => v / 255);
  return [...rgb, opacity, width ? -width / 2 : (pen * PEN) / 2];
}

/** Samples of one period: 255 for ink, 0 for a gap. */
export function pattern(dashes: readonly number[], period: number): number[] {
  const row = new Array<number>(SAMPLES).fill(0);
  let at = 0;
  for (const d of dashes) {
    const end = at + Math.abs(d);
    const first = Math.floor((at / period) * SAMPLES);
    const dot = d === 0 ? DOT : 0;
    const last = Math.max(Math.ceil((end / period) * SAMPLES) - 1, first + dot);
    if (d >= 0) row.fill(255, first, Math.min(SAMPLES - 1, last) + 1);
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
