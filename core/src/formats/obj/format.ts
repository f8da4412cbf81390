import type { Format } from '../../model/format.ts';
import { readLines } from '../text/read.ts';
import { sourceOfText } from '../text/source.ts';
import { obj } from './card.ts';
import { readObj } from './read.ts';
import { referencesOfObj } from './references.ts';
import { sourceOfObj } from './source.ts';

export const format: Format = {
  card: obj,
  read: { solid: readObj, text: readLines },
  source: { solid: sourceOfObj, text: sourceOfText },
  references: referencesOfObj,
};
