/** Names of colour profiles. */

/** The name in an ICC profile (ISO 15076-1, tag “desc”); undefined for one that is damaged. */
export function profileName(icc: Uint8Array): string | undefined {
  const view = new DataView(icc.buffer, icc.byteOffset, icc.byteLength);
  if (icc.length < 132 || view.getUint32(36) !== 0x61637370) return undefined;
  const count = Math.min(100, view.getUint32(128));
  for (let k = 0; k < count && 144 + 12 * k <= icc.length; k++) {
    if (view.getUint32(132 + 12 * k) !== 0x64657363) continue;
    const at = view.getUint32(136 + 12 * k);
    const size = view.getUint32(140 + 12 * k);
    if (at + size > icc.length || size < 12) return undefined;
    const text =
      view.getUint32(at) === 0x6d6c7563
        ? utf16(icc, view, at)
        : new TextDecoder('latin1').decode(
            icc.subarray(at + 12, at + 12 + Math.min(size - 12, view.getUint32(at + 8))),
          );
    return text?.split('\0')[0]?.trim().slice(0, 80) ?? 'without a name';
  }
  return 'without a name';
}

/** The first text of a multi-language list. */
function utf16(icc: Uint8Array, view: DataView, at: number): string | undefined {
  if (at + 28 > icc.length || !view.getUint32(at + 8)) return undefined;
  const length = view.getUint32(at + 20);
  const from = at + view.getUint32(at + 24);
  return from + length <= icc.length
    ? new TextDecoder('utf-16be').decode(icc.subarray(from, from + length))
    : undefined;
}
