import type { Card } from '../../model/card.ts';
import { looksLikeText } from '../shared/plain-text.ts';

export const text: Card = {
  id: 'text',
  title: 'text file',
  extensions: ['txt', 'json', 'xml', 'css', 'yaml', 'yml', 'tex', 'log', 'ini'],
  mime: 'text/plain',
  icon: 'file-text',
  sniff: (head) => (looksLikeText(head) ? 'likely' : 'no'),
  kinds: ['text', 'bytes'],
  show: 'lines',
  general: true,
  writes: 'lossless',
  load: async () => (await import('./format.ts')).format,
};
