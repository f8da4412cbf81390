import { latinOf, type Card } from '../../model/card.ts';

export const ods: Card = {
  id: 'ods',
  title: 'open spreadsheet',
  extensions: ['ods'],
  mime: 'application/vnd.oasis.opendocument.spreadsheet',
  icon: 'table',
  // OpenDocument 1.3, part 2: the first member is the type, not compressed.
  sniff: (head) =>
    latinOf(head, 2) === 'PK' && latinOf(head, 200).includes('application/vnd.oasis.opendocument.spreadsheet')
      ? 'certain'
      : 'no',
  kinds: ['table', 'bytes'],
  show: 'cells',
  pages: 'sheets',
  called: { category: 'column', page: 'sheet' },
  packed: true,
  load: async () => (await import('./format.ts')).format,
};
