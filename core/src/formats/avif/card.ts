import type { Card } from '../../model/card.ts';
import { bySignature } from '../shared/signature.ts';

export const avif: Card = {
  id: 'avif',
  title: 'AVIF picture',
  extensions: ['avif'],
  mime: 'image/avif',
  icon: 'image',
  sniff: bySignature([[4, 'ftypavif']]),
  kinds: ['picture', 'bytes'],
  show: 'itself',
  lossy: true,
  packed: true,
  load: async () => (await import('../shared/picture-format.ts')).pictureFormat(avif),
};
