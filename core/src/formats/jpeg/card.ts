import type { Card } from '../../model/card.ts';
import { bySignature } from '../shared/signature.ts';

export const jpeg: Card = {
  id: 'jpeg',
  title: 'JPEG picture',
  extensions: ['jpg', 'jpeg'],
  mime: 'image/jpeg',
  icon: 'image',
  sniff: bySignature([[0, '\xff\xd8\xff']]),
  kinds: ['picture', 'bytes'],
  show: 'itself',
  lossy: true,
  packed: true,
  load: async () => (await import('../shared/picture-format.ts')).pictureFormat(jpeg),
};
