/** Sizes and numbers in words, for the interface and for what the server says. */

/** "3.4 MB", in powers of 1000. */
export function saySize(bytes: number): string {
  if (bytes < 1000) return `${bytes} ${bytes === 1 ? 'byte' : 'bytes'}`;
  const power = Math.min(3, Math.floor(Math.log10(bytes) / 3));
  const n = bytes / 1000 ** power;
  return `${n < 10 ? n.toFixed(1) : Math.round(n)} ${['', 'kB', 'MB', 'GB'][power]}`;
}
