import { latinOf, type Card } from '../../model/card.ts';
import { hasExtension } from '../shared/plain-text.ts';

export const ifczip: Card = {
  id: 'ifczip',
  title: 'packed building model (ifcZIP)',
  extensions: ['ifczip'],
  mime: 'application/x-ifczip',
  icon: 'building',
  // A package may hold anything; the name says what.
  sniff: (head, name) => (latinOf(head, 2) === 'PK' && hasExtension(name, ifczip.extensions) ? 'certain' : 'no'),
  kinds: ['solid', 'text', 'bytes'],
  show: 'space',
  called: { category: 'discipline', page: 'storey' },
  packed: true,
  load: async () => (await import('./format.ts')).format,
};
