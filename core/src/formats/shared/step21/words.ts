/** Words as ISO 10303-21 writes them: quotes doubled, other letters by their numbers, or as the bytes of UTF-8. */
export function wordsOfStep(said: string): string {
  const words = isPlain(said) ? said : asUtf8(said);
  if (!words.includes("'") && !words.includes('\\')) return words;
  return words
    .replaceAll("''", "'")
    .replace(/\\X2\\((?:[0-9a-f]{4})+)\\X0\\/gi, (_, hex: string) => lettersOf(hex, 4))
    .replace(/\\X4\\((?:[0-9a-f]{8})+)\\X0\\/gi, (_, hex: string) => lettersOf(hex, 8))
    .replace(/\\X\\([0-9a-f]{2})/gi, (_, hex: string) => lettersOf(hex, 2))
    .replace(/\\S\\(.)/g, (_, letter: string) => String.fromCharCode(letter.charCodeAt(0) + 128))
    .replace(/\\P[A-I]\\/g, '')
    .replaceAll('\\\\', '\\');
}

/** Pairs of letters that stand for one (UTF-16) stay together. */
const lettersOf = (hex: string, digits: number): string => {
  const codes = Array.from({ length: hex.length / digits }, (_, k) =>
    parseInt(hex.slice(k * digits, (k + 1) * digits), 16),
  );
  if (digits < 8) return String.fromCharCode(...codes);
  return codes.map((code) => (code > 0x10ffff ? '\ufffd' : String.fromCodePoint(code))).join('');
};

const isPlain = (said: string): boolean => !/[\u0080-\u00ff]/.test(said);

const utf8 = new TextDecoder('utf-8', { fatal: true });

/** The standard allows no such bytes; programs write them all the same. */
function asUtf8(said: string): string {
  try {
    return utf8.decode(Uint8Array.from(said, (letter) => letter.charCodeAt(0)));
  } catch {
    return said;
  }
}
