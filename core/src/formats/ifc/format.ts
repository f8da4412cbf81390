import type { Format } from '../../model/format.ts';
import { readLines } from '../text/read.ts';
import { ifc } from './card.ts';
import { referencesOfIfc } from './references.ts';

export const format: Format = { card: ifc, read: { text: readLines }, references: referencesOfIfc };
