/** A program of the graphics processor with its attributes. */

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

export class Program {
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
