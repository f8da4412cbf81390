import { latinOf, type Card } from '../../model/card.ts';
import { hasExtension } from '../shared/plain-text.ts';

/** Header, and the number of triangles. */
const HEAD = 84;
const TRIANGLE = 50;

/** A binary file says how many triangles it has, and has no more bytes than these take. */
function isBinary(head: Uint8Array, name: string): boolean {
  if (head.length < HEAD || !hasExtension(name, stl.extensions)) return false;
  const count = new DataView(head.buffer, head.byteOffset).getUint32(80, true);
  return count > 0 && (head.length < HEAD + TRIANGLE || head.length <= HEAD + TRIANGLE * count + TRIANGLE);
}

export const stl: Card = {
  id: 'stl',
  title: 'STL model',
  extensions: ['stl'],
  mime: 'model/stl',
  icon: 'box',
  sniff(head, name) {
    if (/^\s*solid\b[^\n]*\r?\n\s*(?:facet\s+normal|endsolid)\b/i.test(latinOf(head, 1024))) return 'certain';
    return isBinary(head, name) ? 'likely' : 'no';
  },
  kinds: ['solid', 'bytes'],
  show: 'space',
  writes: 'lossless',
  load: async () => (await import('./format.ts')).format,
};
