import type { Format } from '../../model/format.ts';
import { readSvg } from './read.ts';

export const svg: Format = {
  id: 'svg',
  title: 'SVG drawing',
  extensions: ['svg'],
  mime: 'image/svg+xml',
  sniff(head) {
    const text = asciiOf(head);
    if (/<(?:[\w-]+:)?svg[\s>/]/.test(text)) return 'certain';
    return /<!DOCTYPE\s+svg/i.test(text) ? 'likely' : 'no';
  },
  read: readSvg,
};

/** The head as ASCII, UTF-16 included: zero bytes are dropped. */
function asciiOf(head: Uint8Array): string {
  const { fromCharCode } = String;
  let text = '';
  for (const byte of head) if (byte) text += fromCharCode(byte);
  return text;
}
