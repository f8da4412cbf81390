import { engine } from '../../model/engines.ts';
import type { Format } from '../../model/format.ts';
import { markupReferences } from '../shared/markup-references.ts';
import { endsOf, writtenInXmp } from '../shared/written.ts';
import { readLines } from '../text/read.ts';
import { sourceOfText } from '../text/source.ts';
import { svg } from './card.ts';
import { readSvg } from './read.ts';
import { viewTag, withNamespace } from './view.ts';
import { sourceOfSvg } from './source.ts';

export const format: Format = {
  card: svg,
  read: { drawing: readSvg, text: readLines },
  source: { drawing: sourceOfSvg, text: sourceOfText },
  written: (bytes) => writtenInXmp(endsOf(bytes)),
  references: markupReferences,
  // A drawing shows more than its parts: gradients, filters, masks.
  draw: async (bytes, _page, side) => (await engine('drawings')).draw(withNamespace(bytes), side),
  showTag: viewTag,
};
