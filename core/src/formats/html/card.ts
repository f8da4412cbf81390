import { latinOf, type Card } from '../../model/card.ts';
import { hasExtension, looksLikeText } from '../shared/plain-text.ts';

/** After comments and the declaration of XML. */
const STARTS = /^\s*(?:<\?xml[^>]*>\s*)?(?:<!--(?:(?!-->)[^])*-->\s*)*<(?:!doctype\s+html|html)\b/i;

export const html: Card = {
  id: 'html',
  title: 'HTML page',
  extensions: ['html', 'htm', 'xhtml'],
  mime: 'text/html',
  icon: 'filetype-html',
  sniff(head, name) {
    if (STARTS.test(latinOf(head))) return 'certain';
    return hasExtension(name, html.extensions) && looksLikeText(head) ? 'likely' : 'no';
  },
  kinds: ['text', 'bytes'],
  show: 'lines',
  writes: 'lossless',
  load: async () => (await import('./format.ts')).format,
};
