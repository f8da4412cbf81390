/** How much memory engines of WebAssembly may have. */

/** Bytes that the memory of an engine may grow to; the module's own limit is 2 GB. */
const MOST_MEMORY = 768 * 1024 ** 2;
const PAGE = 65_536;

/** Engines ask for more memory through this; refused, they stop, and are thrown away. */
export function limitMemory(): void {
  // eslint-disable-next-line @typescript-eslint/unbound-method -- called on the memory that is to grow
  const { grow } = WebAssembly.Memory.prototype;
  WebAssembly.Memory.prototype.grow = function limited(this: WebAssembly.Memory, pages: number): number {
    if (this.buffer.byteLength + pages * PAGE > MOST_MEMORY) throw new RangeError('an engine wants too much memory');
    return grow.call(this, pages);
  };
}
