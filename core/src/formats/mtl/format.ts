import type { Format } from '../../model/format.ts';
import { readLines } from '../text/read.ts';
import { sourceOfText } from '../text/source.ts';
import { mtl } from './card.ts';
import { referencesOfMtl } from './references.ts';

export const format: Format = {
  card: mtl,
  read: { text: readLines },
  source: { text: sourceOfText },
  references: referencesOfMtl,
};
