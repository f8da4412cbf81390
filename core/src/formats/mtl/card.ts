import { latinOf, type Card } from '../../model/card.ts';

export const mtl: Card = {
  id: 'mtl',
  title: 'materials of an OBJ model',
  extensions: ['mtl'],
  mime: 'model/mtl',
  icon: 'palette',
  sniff: (head) => (/^(?:\s*#[^\r\n]*|\s)*newmtl\s/.test(latinOf(head)) ? 'certain' : 'no'),
  kinds: ['text', 'bytes'],
  show: 'lines',
  load: async () => (await import('./format.ts')).format,
};
