import type { Format } from '../../model/format.ts';
import { readLines } from '../text/read.ts';
import { sourceOfText } from '../text/source.ts';
import { obj } from './card.ts';
import { referencesOfObj } from './references.ts';

export const format: Format = {
  card: obj,
  read: { text: readLines },
  source: { text: sourceOfText },
  references: referencesOfObj,
};
