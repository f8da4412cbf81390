import type { Format } from '../../model/format.ts';
import { readLines } from '../text/read.ts';
import { sourceOfText } from '../text/source.ts';
import { ifc } from './card.ts';
import { referencesOfIfc } from './references.ts';

export const format: Format = {
  card: ifc,
  read: { text: readLines },
  source: { text: sourceOfText },
  references: referencesOfIfc,
};
