import { stepFormat } from '../shared/step21/format.ts';
import { step } from './card.ts';
import { readStep } from './read.ts';
import { referencesOfStep } from './references.ts';

export const format = stepFormat(step, { read: readStep, references: referencesOfStep });
