import type { Format } from '../../model/format.ts';
import { markupReferences } from '../shared/markup-references.ts';
import { readLines } from '../text/read.ts';
import { sourceOfText } from '../text/source.ts';
import { html } from './card.ts';

export const format: Format = {
  card: html,
  read: { text: readLines },
  source: { text: sourceOfText },
  references: markupReferences,
};
