import type { Format } from '../../model/format.ts';
import { ply } from './card.ts';
import { readPly } from './read.ts';

export const format: Format = { card: ply, read: { solid: readPly } };
