import type { Card } from '../../model/card.ts';
import { bySignature } from '../shared/signature.ts';

export const zip: Card = {
  id: 'zip',
  title: 'ZIP container',
  extensions: ['zip', 'usdz'],
  mime: 'application/zip',
  icon: 'file-zip',
  sniff: bySignature([[0, 'PK\x03\x04']]),
  kinds: ['bytes'],
  show: 'nothing',
  packed: true,
  general: true,
  load: () => Promise.resolve({ card: zip, read: {} }),
};
