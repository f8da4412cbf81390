import { latinOf, type Card } from '../../model/card.ts';

/** Name and content of the first member, which is stored (OpenRaster 0.0.6, file layout). */
const FIRST = 'mimetypeimage/openraster';
const AT = 30;

export const ora: Card = {
  id: 'ora',
  title: 'layered picture (OpenRaster)',
  extensions: ['ora'],
  mime: 'image/openraster',
  icon: 'layers',
  sniff(head) {
    if (head[0] !== 0x50 || head[1] !== 0x4b || head[2] !== 3) return 'no';
    const text = latinOf(head);
    // Packed again by other programs, the list of layers still has its name.
    return text.startsWith(FIRST, AT) || text.includes('stack.xml') ? 'certain' : 'no';
  },
  kinds: ['picture', 'bytes'],
  show: 'decoded',
  layers: true,
  pieces: 'layers',
  writes: 'whole',
  load: async () => (await import('./format.ts')).format,
};
