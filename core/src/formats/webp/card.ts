import type { Card } from '../../model/card.ts';
import { bySignature } from '../shared/signature.ts';

export const webp: Card = {
  id: 'webp',
  title: 'WebP picture',
  extensions: ['webp'],
  mime: 'image/webp',
  icon: 'image',
  sniff: bySignature([
    [0, 'RIFF'],
    [8, 'WEBP'],
  ]),
  kinds: ['picture', 'bytes'],
  show: 'itself',
  pages: 'frames',
  lossy: true,
  packed: true,
  load: async () => (await import('../shared/picture-format.ts')).pictureFormat(webp),
};
