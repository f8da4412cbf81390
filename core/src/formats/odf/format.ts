import type { Format } from '../../model/format.ts';
import { odf } from './card.ts';
import { referencesOfOdf } from './references.ts';

export const format: Format = { card: odf, read: {}, references: referencesOfOdf };
