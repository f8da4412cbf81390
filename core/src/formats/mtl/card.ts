import { latinOf, type Card } from '../../model/card.ts';

export const mtl: Card = {
  id: 'mtl',
  title: 'materials of an OBJ model',
  extensions: ['mtl'],
  mime: 'model/mtl',
  icon: 'palette',
  sniff(head) {
    const said = latinOf(head)
      .split(/[\r\n]/)
      .find((line) => line.trim() && !line.trim().startsWith('#'));
    return said?.trim().startsWith('newmtl ') ? 'certain' : 'no';
  },
  kinds: ['text', 'bytes'],
  show: 'lines',
  writes: 'lossless',
  load: async () => (await import('./format.ts')).format,
};
