import type { Format } from '../../model/format.ts';
import { readLines } from '../text/read.ts';
import { dxf } from './card.ts';
import { readDxf } from './read.ts';
import { referencesOfDxf } from './references.ts';

export const format: Format = {
  card: dxf,
  read: { drawing: readDxf, text: readLines },
  references: referencesOfDxf,
};
