import type { Format } from '../../model/format.ts';
import { stl } from './card.ts';
import { readStl } from './read.ts';
import { sourceOfStl } from './source.ts';

export const format: Format = { card: stl, read: { solid: readStl }, source: { solid: sourceOfStl } };
