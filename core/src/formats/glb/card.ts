import type { Card } from '../../model/card.ts';
import { bySignature } from '../shared/signature.ts';

export const glb: Card = {
  id: 'glb',
  title: 'binary glTF model',
  extensions: ['glb'],
  mime: 'model/gltf-binary',
  icon: 'box',
  sniff: bySignature([[0, 'glTF']]),
  kinds: ['solid', 'bytes'],
  show: 'space',
  writes: 'lossless',
  load: async () => (await import('./format.ts')).format,
};
