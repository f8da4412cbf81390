/** How values of facts are kept. */
import type { z } from 'zod';

export interface Codec<Value> {
  encode(value: Value): Buffer;
  /** Throws for what is no such value. */
  decode(kept: Buffer): Value;
}

export const jsonOf = <Schema extends z.ZodType>(schema: Schema): Codec<z.output<Schema>> => ({
  encode: (value) => Buffer.from(JSON.stringify(value)),
  decode: (kept) => schema.parse(JSON.parse(kept.toString('utf8'))),
});

/** Bytes that may be missing: what cannot be drawn is kept as nothing. */
export const maybeBytes: Codec<Buffer | undefined> = {
  encode: (value) => value ?? Buffer.alloc(0),
  decode: (kept) => (kept.length ? kept : undefined),
};

export const numbers: Codec<Uint32Array> = {
  encode(value) {
    const kept = Buffer.alloc(value.length * 4);
    value.forEach((n, i) => kept.writeUInt32LE(n, i * 4));
    return kept;
  },
  decode(kept) {
    if (kept.length % 4) throw new Error('numbers of four bytes each were expected');
    return Uint32Array.from({ length: kept.length / 4 }, (_, i) => kept.readUInt32LE(i * 4));
  },
};
