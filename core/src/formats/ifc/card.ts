import { latinOf, type Card } from '../../model/card.ts';
import { hasExtension } from '../shared/plain-text.ts';

export const ifc: Card = {
  id: 'ifc',
  title: 'building model (IFC)',
  extensions: ['ifc'],
  mime: 'application/x-step',
  icon: 'building',
  sniff(head, name) {
    const text = latinOf(head);
    if (text.startsWith('ISO-10303-21') && /FILE_SCHEMA\s*\(\s*\(\s*'IFC/.test(text)) return 'certain';
    return hasExtension(name, ifc.extensions) && /#\d+\s*=\s*IFC/.test(text) ? 'likely' : 'no';
  },
  kinds: ['solid', 'text', 'bytes'],
  show: 'space',
  called: { category: 'discipline', page: 'storey' },
  writes: 'lossless',
  load: async () => (await import('./format.ts')).format,
};
