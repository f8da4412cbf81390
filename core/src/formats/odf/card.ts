import { latinOf, type Card } from '../../model/card.ts';
import { hasExtension } from '../shared/plain-text.ts';

/** Name and content of the first member (OpenDocument 1.3, part 2, 3.3). */
const MIMETYPE = 'mimetypeapplication/vnd.oasis.opendocument';

export const odf: Card = {
  id: 'odf',
  title: 'OpenDocument file',
  extensions: ['odt', 'odp', 'odg'],
  mime: 'application/vnd.oasis.opendocument',
  icon: 'file-earmark-richtext',
  sniff(head, name) {
    if (latinOf(head, 2) !== 'PK') return 'no';
    const text = latinOf(head);
    if (text.includes(MIMETYPE)) return 'certain';
    return text.includes('content.xml') && hasExtension(name, odf.extensions) ? 'certain' : 'no';
  },
  kinds: ['bytes'],
  show: 'nothing',
  packed: true,
  load: async () => (await import('./format.ts')).format,
};
