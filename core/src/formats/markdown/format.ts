import type { Format } from '../../model/format.ts';
import { readLines } from '../text/read.ts';
import { sourceOfText } from '../text/source.ts';
import { markdown } from './card.ts';
import { referencesOfMarkdown } from './references.ts';

export const format: Format = {
  card: markdown,
  read: { text: readLines },
  source: { text: sourceOfText },
  references: referencesOfMarkdown,
};
