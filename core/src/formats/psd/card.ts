import { latinOf, type Card } from '../../model/card.ts';

/** Versions 1 and 2 of the header. */
const versions: ReadonlySet<number | undefined> = new Set([1, 2]);

export const psd: Card = {
  id: 'psd',
  title: 'layered picture (PSD)',
  extensions: ['psd', 'psb'],
  mime: 'image/vnd.adobe.photoshop',
  icon: 'layers',
  sniff: (head) => (latinOf(head, 4) === '8BPS' && head[4] === 0 && versions.has(head[5]) ? 'certain' : 'no'),
  kinds: ['picture', 'bytes'],
  show: 'decoded',
  layers: true,
  load: async () => (await import('./format.ts')).format,
};
