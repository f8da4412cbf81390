import type { Design } from '../../model/design.ts';
import { plainPicture } from '../../model/picture.ts';
import { drawnPage } from './draw/page.ts';
import type { FoundInPair, Kind, Seen } from '../kind.ts';
import { checkedByPixels } from './check-pixels.ts';
import { compareDesigns } from './compare.ts';
import { followParts, partAtPoint } from './follow.ts';
import { outlinesOf } from './outlines.ts';
import { paged } from './pages.ts';
import { editedOf } from './steps.ts';
import { staleSentence, titleBlockChanges } from './titleblock/fields.ts';

export const drawing: Kind<Design> = {
  id: 'drawing',
  level: 'parts',
  // Parts of two formats are not of the same kinds; what they look like can be compared.
  comparable: (a, b) => a.format === b.format,
  async compare(seenA, b, options) {
    const a = { ...seenA, model: inOrderOf(seenA.model, b.model) };
    const compared = compareDesigns(a.model, b.model, options);
    const { parts, ...evidence } = await lookedAt(a, b, compared);
    return {
      ...evidence,
      ...titles(a.model, b.model, evidence),
      unit: b.model.origin.units ?? 'user unit',
      tolerance: compared.tolerance,
      outlines: outlinesOf(a.model, b.model, parts),
      parts: { a: a.model, b: b.model, parts },
    };
  },
  step: (a, b, options) => editedOf(compareDesigns(a, b, options)),
  follow: followParts,
  partAt(design, name, [x, y], reach) {
    const page = design.pages.findIndex((p) => p.name === name);
    return partAtPoint(design, Math.max(0, page), x, y, reach);
  },
  picture: ({ content }, page, side) => drawnPage(content, page, side),
};

/** Documents have pages that are put in, taken out and moved. */
const inOrderOf = (a: Design, b: Design): Design => (a.traits.pagesMove && b.traits.pagesMove ? paged(a, b) : a);

type Compared = ReturnType<typeof compareDesigns>;

async function lookedAt(a: Seen<Design>, b: Seen<Design>, compared: Compared): Promise<Compared> {
  if (!a.model.traits.seenOtherwise || !b.model.traits.seenOtherwise) return compared;
  const page = async (of: Seen<Design>, index: number, side: number): ReturnType<typeof pictureOf> =>
    pictureOf(of, index, side);
  return checkedByPixels(a.model, b.model, compared, {
    a: (index, side) => page(a, index, side),
    b: (index, side) => page(b, index, side),
  });
}

const pictureOf = async (
  { content }: Seen<Design>,
  page: number,
  side: number,
): Promise<ReturnType<typeof plainPicture>> => plainPicture(await drawnPage(content, page, side));

/** Title blocks before and after, and a note on sheets that changed and kept their revision. */
function titles(
  a: Design,
  b: Design,
  { changes, notes }: Pick<FoundInPair, 'changes' | 'notes'>,
): Partial<FoundInPair> {
  const changed = new Set(changes.flatMap((c) => [c.partA?.page ?? '', c.partB?.page ?? '']));
  const titleBlocks = titleBlockChanges(a, b, changed);
  const stale = staleSentence(titleBlocks);
  return { titleBlocks, notes: stale ? [...notes, stale] : notes };
}
