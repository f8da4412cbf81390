import type { Format } from '../../model/format.ts';
import { referencesOfOdf } from '../odf/references.ts';
import { writtenInMember } from '../shared/written.ts';
import { ods } from './card.ts';
import { readOdsBook } from './read.ts';

export const format: Format = {
  card: ods,
  read: { table: readOdsBook },
  // OpenDocument 1.3, part 3, 4.3.
  written: (bytes) => writtenInMember(bytes, 'meta.xml', { at: 'dc:date', by: 'dc:creator' }),
  references: referencesOfOdf,
};
