import { engine } from '../../model/engines.ts';
import type { Format } from '../../model/format.ts';
import { defaultLimits } from '../../model/limits.ts';
import { markupReferences } from '../shared/markup-references.ts';
import { readSvg } from '../svg/read.ts';
import { withNamespace } from '../svg/view.ts';
import { readLines } from '../text/read.ts';
import { svgz } from './card.ts';
import { inflated } from './inflate.ts';

export const format: Format = {
  card: svgz,
  read: {
    drawing: (bytes, limits) => readSvg(inflated(bytes, limits.bytes), limits),
    text: (bytes, limits) => readLines(inflated(bytes, limits.bytes), limits),
  },
  references: (bytes) => markupReferences(inflated(bytes, defaultLimits.bytes)),
  draw: async (bytes, _page, side) =>
    (await engine('drawings')).draw(withNamespace(inflated(bytes, defaultLimits.bytes)), side),
};
