import type { Card } from '../../model/card.ts';
import { hasExtension, looksLikeText } from '../shared/plain-text.ts';

export const csv: Card = {
  id: 'csv',
  title: 'table of values',
  extensions: ['csv', 'tsv'],
  mime: 'text/csv',
  icon: 'table',
  sniff: (head, name) => (looksLikeText(head) && hasExtension(name, csv.extensions) ? 'certain' : 'no'),
  kinds: ['table', 'text', 'bytes'],
  show: 'cells',
  called: { category: 'column', page: 'sheet' },
  general: true,
  writes: 'lossless',
  load: async () => (await import('./format.ts')).format,
};
