import { latinOf, type Card } from '../../model/card.ts';
import { hasExtension } from '../shared/plain-text.ts';

export const threemf: Card = {
  id: 'threemf',
  title: '3MF model',
  extensions: ['3mf'],
  mime: 'model/3mf',
  icon: 'box',
  sniff(head, name) {
    if (latinOf(head, 2) !== 'PK') return 'no';
    if (/3D\/[^/\0]{1,80}\.model/.test(latinOf(head))) return 'certain';
    return hasExtension(name, threemf.extensions) ? 'certain' : 'no';
  },
  kinds: ['solid', 'bytes'],
  show: 'space',
  packed: true,
  load: async () => (await import('./format.ts')).format,
};
