import type { Card } from '../../model/card.ts';
import { bySignature } from '../shared/signature.ts';
import { hasExtension } from '../shared/plain-text.ts';

const isGzip = bySignature([[0, '\x1f\x8b']]);

export const svgz: Card = {
  id: 'svgz',
  title: 'compressed SVG drawing',
  extensions: ['svgz'],
  mime: 'image/svg+xml-compressed',
  icon: 'vector-pen',
  // Anything may be compressed so; the name says what.
  sniff: (head, name) => (hasExtension(name, ['svgz']) ? isGzip(head, name) : 'no'),
  kinds: ['drawing', 'text', 'bytes'],
  show: 'parts',
  packed: true,
  load: async () => (await import('./format.ts')).format,
};
