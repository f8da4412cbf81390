import { latinOf, type Card } from '../../model/card.ts';

/** Some programs write a few bytes before the header. */
const WITHIN = 1024;

export const pdf: Card = {
  id: 'pdf',
  title: 'PDF document',
  extensions: ['pdf'],
  mime: 'application/pdf',
  icon: 'file-earmark-text',
  sniff(head) {
    const at = latinOf(head, WITHIN).indexOf('%PDF-');
    if (at < 0) return 'no';
    return at === 0 ? 'certain' : 'likely';
  },
  // Lines of a document's file tell nobody anything, even where it is written in letters.
  kinds: ['drawing', 'bytes'],
  show: 'decoded',
  pages: 'sheets',
  fine: true,
  packed: true,
  lockable: true,
  pieces: 'pages',
  writes: 'whole',
  load: async () => (await import('./load.ts')).load(),
};
