import type { Format } from '../../model/format.ts';
import { text } from './card.ts';
import { readLines } from './read.ts';
import { sourceOfText } from './source.ts';

export const format: Format = { card: text, read: { text: readLines }, source: { text: sourceOfText } };
