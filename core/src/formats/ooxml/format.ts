import type { Format } from '../../model/format.ts';
import { writtenInMember } from '../shared/written.ts';
import { ooxml } from './card.ts';
import { referencesOfOoxml } from './references.ts';

export const format: Format = {
  card: ooxml,
  read: {},
  // ISO/IEC 29500-2: core properties.
  written: (bytes) => writtenInMember(bytes, 'docProps/core.xml', { at: 'dcterms:modified', by: 'cp:lastModifiedBy' }),
  references: referencesOfOoxml,
};
