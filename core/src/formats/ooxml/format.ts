import type { Format } from '../../model/format.ts';
import { ooxml } from './card.ts';
import { referencesOfOoxml } from './references.ts';

export const format: Format = { card: ooxml, read: {}, references: referencesOfOoxml };
