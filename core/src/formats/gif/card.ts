import type { Card } from '../../model/card.ts';
import { bySignature } from '../shared/signature.ts';

export const gif: Card = {
  id: 'gif',
  title: 'GIF picture',
  extensions: ['gif'],
  mime: 'image/gif',
  icon: 'image',
  sniff: bySignature([[0, 'GIF87a']], [[0, 'GIF89a']]),
  kinds: ['picture', 'bytes'],
  show: 'itself',
  pages: 'frames',
  packed: true,
  load: async () => (await import('../shared/picture-format.ts')).pictureFormat(gif),
};
