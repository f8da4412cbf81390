import type { Format } from '../../model/format.ts';
import { readPdf } from './read.ts';

export const pdf: Format = {
  id: 'pdf',
  title: 'PDF document',
  extensions: ['pdf'],
  mime: 'application/pdf',
  sniff(head) {
    // Some programs write a few bytes before it.
    const text = new TextDecoder('latin1').decode(head.subarray(0, 1024));
    const at = text.indexOf('%PDF-');
    return at === 0 ? 'certain' : at > 0 ? 'likely' : 'no';
  },
  read: readPdf,
};
