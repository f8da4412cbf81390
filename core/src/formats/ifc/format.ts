import { stepFormat } from '../shared/step21/format.ts';
import { ifc } from './card.ts';
import { readIfc } from './read.ts';
import { referencesOfIfc } from './references.ts';

export const format = stepFormat(ifc, readIfc, referencesOfIfc);
