/** Words of any file that is written in letters. */

/** By its mark at the beginning. */
export const encodingOf = (bytes: Uint8Array): string => {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return 'utf-16le';
  return bytes[0] === 0xfe && bytes[1] === 0xff ? 'utf-16be' : 'utf-8';
};

export const decodeText = (bytes: Uint8Array): string => new TextDecoder(encodingOf(bytes)).decode(bytes);

/** As UTF-8 or UTF-16, or else as one byte a character, so that no byte is lost. */
export function decodeAny(bytes: Uint8Array): string {
  try {
    return new TextDecoder(encodingOf(bytes), { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('windows-1252').decode(bytes);
  }
}

const SAMPLE = 16_384;
/** Share of characters that may be odd in what counts as text. */
const ODD = 0.02;
/** Tab, line feed, form feed, carriage return, escape. */
const harmless: ReadonlySet<number> = new Set([9, 10, 12, 13, 27]);
const REPLACEMENT = 0xfffd;

/** No control characters but white space, and few bytes that are not UTF-8. */
export function looksLikeText(head: Uint8Array): boolean {
  if (head.length === 0) return false;
  const decoded = decodeText(head.subarray(0, SAMPLE));
  let odd = 0;
  for (let i = 0; i < decoded.length; i++) {
    const c = decoded.charCodeAt(i);
    if (c === 0) return false;
    if ((c < 32 && !harmless.has(c)) || c === REPLACEMENT) odd++;
  }
  return odd <= decoded.length * ODD + 1;
}

export const hasExtension = (name: string, extensions: readonly string[]): boolean =>
  extensions.some((extension) => name.toLowerCase().endsWith(`.${extension}`));
