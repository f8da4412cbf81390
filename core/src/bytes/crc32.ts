const table = Uint32Array.from({ length: 256 }, (_, n) => {
  for (let k = 0; k < 8; k++) n = n & 1 ? 0xedb88320 ^ (n >>> 1) : n >>> 1;
  return n;
});

/** CRC-32 as in PNG and ZIP. */
export function crc32(...parts: readonly Uint8Array[]): number {
  let c = 0xffffffff;
  for (const bytes of parts)
    for (let i = 0; i < bytes.length; i++) c = (table[(c ^ (bytes[i] as number)) & 255] as number) ^ (c >>> 8);
  return (c ^ 0xffffffff) >>> 0;
}
