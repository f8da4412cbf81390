import { latinOf, type Card } from '../../model/card.ts';
import { hasExtension } from '../shared/plain-text.ts';

export const gltf: Card = {
  id: 'gltf',
  title: 'glTF model',
  extensions: ['gltf'],
  mime: 'model/gltf+json',
  icon: 'box',
  sniff(head, name) {
    const text = latinOf(head);
    if (!/^\s*\{/.test(text)) return 'no';
    if (/"asset"\s*:\s*\{[^}]*"version"/.test(text)) return 'certain';
    return hasExtension(name, gltf.extensions) ? 'likely' : 'no';
  },
  kinds: ['solid', 'text', 'bytes'],
  show: 'space',
  writes: 'lossless',
  load: async () => (await import('./format.ts')).format,
};
