/** Bytes one after the other. */
export function concat(parts: readonly Uint8Array[], size = parts.reduce((n, p) => n + p.length, 0)): Uint8Array {
  const out = new Uint8Array(size);
  let at = 0;
  for (const part of parts) {
    out.set(part, at);
    at += part.length;
  }
  return out;
}
