import type { Format } from '../../model/format.ts';
import { stl } from './card.ts';
import { readStl } from './read.ts';

export const format: Format = { card: stl, read: { solid: readStl } };
