import type { Card } from '../../model/card.ts';

export const svg: Card = {
  id: 'svg',
  title: 'SVG drawing',
  extensions: ['svg'],
  mime: 'image/svg+xml',
  icon: 'vector-pen',
  sniff(head) {
    const text = asciiOf(head);
    if (/<(?:[\w-]+:)?svg[\s>/]/.test(text)) return 'certain';
    return /<!DOCTYPE\s+svg/i.test(text) ? 'likely' : 'no';
  },
  kinds: ['drawing', 'text', 'bytes'],
  show: 'itself',
  crowd: { parts: 60_000, bytes: 1_500_000 },
  writes: 'lossless',
  load: async () => (await import('./format.ts')).format,
};

/** The head as ASCII, UTF-16 included: zero bytes are dropped. */
function asciiOf(head: Uint8Array): string {
  const { fromCharCode } = String;
  let text = '';
  for (const byte of head) if (byte) text += fromCharCode(byte);
  return text;
}
