import type { Format } from '../../model/format.ts';

/** Name and content of the first member, which is stored (OpenRaster 0.0.6, file layout). */
const FIRST = 'mimetypeimage/openraster';
const AT = 30;

/** Looked into by its pixels and layers (node/layered.ts). */
export const ora: Format = {
  id: 'ora',
  title: 'layered picture (OpenRaster)',
  extensions: ['ora'],
  mime: 'image/openraster',
  sniff(head) {
    if (head[0] !== 0x50 || head[1] !== 0x4b || head[2] !== 3) return 'no';
    const text = new TextDecoder('latin1').decode(head);
    // Packed again by other programs, the list of layers still has its name.
    return text.startsWith(FIRST, AT) || text.includes('stack.xml') ? 'certain' : 'no';
  },
};
