import type { Card } from '../../model/card.ts';
import { bySignature } from '../shared/signature.ts';

export const gzip: Card = {
  id: 'gzip',
  title: 'gzip-compressed file',
  extensions: ['gz'],
  mime: 'application/gzip',
  icon: 'file-zip',
  sniff: bySignature([[0, '\x1f\x8b']]),
  kinds: ['bytes'],
  show: 'nothing',
  packed: true,
  load: () => Promise.resolve({ card: gzip, read: {} }),
};
