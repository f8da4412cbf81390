import type { Card } from '../../model/card.ts';
import { hasExtension, looksLikeText } from '../shared/plain-text.ts';

export const markdown: Card = {
  id: 'markdown',
  title: 'Markdown text',
  extensions: ['md', 'markdown'],
  mime: 'text/markdown',
  icon: 'markdown',
  // Any text is Markdown: only its name tells.
  sniff: (head, name) => (hasExtension(name, markdown.extensions) && looksLikeText(head) ? 'likely' : 'no'),
  kinds: ['text', 'bytes'],
  show: 'lines',
  writes: 'lossless',
  load: async () => (await import('./format.ts')).format,
};
