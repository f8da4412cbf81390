import type { Format } from '../../model/format.ts';
import { readLines } from '../text/read.ts';
import { obj } from './card.ts';
import { referencesOfObj } from './references.ts';

export const format: Format = { card: obj, read: { text: readLines }, references: referencesOfObj };
