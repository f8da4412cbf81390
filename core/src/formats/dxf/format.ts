import type { Format } from '../../model/format.ts';
import { readLines } from '../text/read.ts';
import { sourceOfText } from '../text/source.ts';
import { dxf } from './card.ts';
import { readDxf } from './read.ts';
import { referencesOfDxf } from './references.ts';
import { sourceOfDxf } from './source.ts';
import { writtenInDxf } from './written.ts';

export const format: Format = {
  card: dxf,
  read: { drawing: readDxf, text: readLines },
  source: { drawing: sourceOfDxf, text: sourceOfText },
  written: writtenInDxf,
  references: referencesOfDxf,
};
