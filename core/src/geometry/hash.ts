/** Incremental 64-bit hash (two 32-bit FNV-1a lanes with a final mix). For fingerprints, not for safety. */
export class Hash {
  private a = 0x811c9dc5;
  private b = 0x1b873593;

  int(n: number): this {
    this.a = Math.imul(this.a ^ n, 0x01000193);
    this.b = Math.imul(this.b ^ n, 0x85ebca6b) ^ (this.b >>> 13);
    return this;
  }

  /** A number rounded to `step`. Both halves of large values count. */
  number(value: number, step: number): this {
    const n = Math.round(value / step);
    return this.int(n | 0).int(Math.floor(n / 4294967296) | 0);
  }

  text(s: string): this {
    for (let i = 0; i < s.length; i++) this.int(s.charCodeAt(i));
    return this.int(0x10000);
  }

  /** 16 hexadecimal digits. */
  digest(): string {
    return (
      mix(this.a ^ this.b)
        .toString(16)
        .padStart(8, '0') +
      mix(this.b + 0x9e3779b9)
        .toString(16)
        .padStart(8, '0')
    );
  }
}

// Finaliser of MurmurHash3.
function mix(h: number): number {
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  return (h ^ (h >>> 16)) >>> 0;
}

export const hashText = (s: string): string => new Hash().text(s).digest();

/** Of bytes, every one of them. */
export function hashBytes(bytes: Uint8Array): string {
  const hash = new Hash();
  const { length } = bytes;
  const whole = length >> 2;
  const words =
    bytes.byteOffset % 4
      ? new Uint32Array(bytes.slice(0, whole * 4).buffer)
      : new Uint32Array(bytes.buffer, bytes.byteOffset, whole);
  for (let k = 0; k < whole; k++) hash.int(words[k] as number);
  for (let k = whole * 4; k < length; k++) hash.int(bytes[k] as number);
  return hash.int(length).digest();
}
