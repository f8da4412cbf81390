import type { Format } from '../../model/format.ts';
import { referencesOfOoxml } from '../ooxml/references.ts';
import { writtenInMember } from '../shared/written.ts';
import { xlsx } from './card.ts';
import { readXlsxBook } from './read.ts';

export const format: Format = {
  card: xlsx,
  read: { table: readXlsxBook },
  // ISO/IEC 29500-2: core properties.
  written: (bytes) => writtenInMember(bytes, 'docProps/core.xml', { at: 'dcterms:modified', by: 'cp:lastModifiedBy' }),
  references: referencesOfOoxml,
};
