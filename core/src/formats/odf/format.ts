import type { Format } from '../../model/format.ts';
import { writtenInMember } from '../shared/written.ts';
import { odf } from './card.ts';
import { referencesOfOdf } from './references.ts';

export const format: Format = {
  card: odf,
  read: {},
  // OpenDocument 1.3, part 3, 4.3.
  written: (bytes) => writtenInMember(bytes, 'meta.xml', { at: 'dc:date', by: 'dc:creator' }),
  references: referencesOfOdf,
};
