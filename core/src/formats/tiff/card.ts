import type { Card } from '../../model/card.ts';
import { bySignature } from '../shared/signature.ts';

export const tiff: Card = {
  id: 'tiff',
  title: 'TIFF picture',
  extensions: ['tif', 'tiff'],
  mime: 'image/tiff',
  icon: 'image',
  sniff: bySignature([[0, 'II*\0']], [[0, 'MM\0*']]),
  kinds: ['picture', 'bytes'],
  show: 'decoded',
  pages: 'pages',
  pieces: 'areas',
  writes: 'lossless',
  load: async () => (await import('./format.ts')).format,
};
