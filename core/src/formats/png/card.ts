import type { Card } from '../../model/card.ts';
import { bySignature } from '../shared/signature.ts';

export const png: Card = {
  id: 'png',
  title: 'PNG picture',
  extensions: ['png'],
  mime: 'image/png',
  icon: 'image',
  sniff: bySignature([[0, '\x89PNG\r\n\x1a\n']]),
  kinds: ['picture', 'bytes'],
  show: 'itself',
  packed: true,
  pieces: 'areas',
  writes: 'lossless',
  load: async () => (await import('./format.ts')).format,
};
