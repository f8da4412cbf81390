import type { Design } from '../../model/design.ts';
import { noOutlines } from '../drawing/outlines.ts';
import { editedOf } from '../drawing/steps.ts';
import type { Kind } from '../kind.ts';
import { compareLines } from './compare.ts';
import { matchSequence } from './sequence.ts';

export const text: Kind<Design> = {
  id: 'text',
  level: 'text',
  compare(a, b) {
    const found = compareLines(a.model, b.model);
    return { ...found, unit: 'line', outlines: noOutlines, parts: { a: a.model, b: b.model, parts: found.parts } };
  },
  follow(a, b, parts) {
    const { toB } = matchSequence(a, b);
    return parts.map((i) => toB[i] ?? -1);
  },
  step: (a, b) => editedOf(compareLines(a, b)),
};
