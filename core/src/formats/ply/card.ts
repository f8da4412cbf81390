import { latinOf, type Card } from '../../model/card.ts';

export const ply: Card = {
  id: 'ply',
  title: 'PLY model',
  extensions: ['ply'],
  mime: 'model/ply',
  icon: 'box',
  sniff: (head) =>
    /^ply\r?\nformat (?:ascii|binary_(?:little|big)_endian) 1\.0/.test(latinOf(head, 64)) ? 'certain' : 'no',
  kinds: ['solid', 'bytes'],
  show: 'space',
  load: async () => (await import('./format.ts')).format,
};
