import { stepFormat } from '../shared/step21/format.ts';
import { ifc } from './card.ts';
import { readIfc } from './read.ts';
import { referencesOfIfc } from './references.ts';
import { sourceOfIfc } from './source.ts';

export const format = stepFormat(ifc, { read: readIfc, references: referencesOfIfc, source: sourceOfIfc });
