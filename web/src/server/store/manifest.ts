/** Which chunks make up a content: 12 bytes a chunk, id (8) and size (4), big-endian. */
export interface ChunkRef {
  readonly id: bigint;
  readonly size: number;
}

const ENTRY = 12;

export function packManifest(chunks: readonly ChunkRef[]): Buffer {
  const out = Buffer.alloc(chunks.length * ENTRY);
  chunks.forEach(({ id, size }, i) => {
    out.writeBigInt64BE(id, i * ENTRY);
    out.writeUInt32BE(size, i * ENTRY + 8);
  });
  return out;
}

export function unpackManifest(packed: Buffer): ChunkRef[] {
  const out: ChunkRef[] = [];
  for (let i = 0; i + ENTRY <= packed.length; i += ENTRY)
    out.push({ id: packed.readBigInt64BE(i), size: packed.readUInt32BE(i + 8) });
  return out;
}
