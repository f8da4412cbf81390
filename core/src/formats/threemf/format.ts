import type { Format } from '../../model/format.ts';
import { threemf } from './card.ts';
import { readThreemf } from './read.ts';

export const format: Format = { card: threemf, read: { solid: readThreemf } };
