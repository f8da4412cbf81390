import type { Design } from '../../model/design.ts';
import { plainPicture } from '../../model/picture.ts';
import { orUnreadable, ReadError } from '../../model/problem.ts';
import { drawnPage } from './draw/page.ts';
import type { CompareOptions, FoundInPair, Kind, Seen } from '../kind.ts';
import { compareDesigns, compareParts, type ComparedDesigns } from './compare.ts';
import { followParts, partAtPoint } from './follow.ts';
import { outlinesOf } from './outlines.ts';
import { paged } from './pages.ts';
import { checkedByPixels } from './pixels/check.ts';
import { unseenChanges } from './pixels/judge.ts';
import type { Draw } from './pixels/pages.ts';
import { editedOf } from './steps.ts';
import { turnedLike } from './turned-pages.ts';
import { staleSentence, titleBlockChanges } from './titleblock/fields.ts';

export const drawing: Kind<Design> = {
  id: 'drawing',
  level: 'parts',
  // Parts of two formats are not of the same kinds; what they look like can be compared.
  comparable: (a, b) => a.format === b.format,
  async compare(seenA, b, options) {
    const a = { ...seenA, model: inOrderOf(seenA.model, b.model) };
    const compared = await lookedAt(a, b, options);
    const { parts, ...evidence } = compared;
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

/** Documents have pages that are put in, taken out, moved and turned. */
const inOrderOf = (a: Design, b: Design): Design =>
  a.traits.pagesMove && b.traits.pagesMove ? turnedLike(paged(a, b), b) : a;

/** Compared part by part, and checked by what both look like where they can be drawn. */
async function lookedAt(a: Seen<Design>, b: Seen<Design>, options: CompareOptions): Promise<ComparedDesigns> {
  const listed = compareParts(a.model, b.model, options);
  const draw = { a: penFor(a), b: penFor(b) };
  const compared = listed.explained(await unseenChanges(a.model, b.model, listed, draw));
  if (a.model.traits.seenOtherwise && b.model.traits.seenOtherwise)
    return checkedByPixels(a.model, b.model, compared, draw);
  if (compared.changes.length > 0 || compared.causes.length > 0 || !isDrawnByItself(a) || !isDrawnByItself(b))
    return compared;
  // What nobody sees is said only after it was looked for.
  const checked = await orUnreadable(checkedByPixels(a.model, b.model, compared, draw));
  if (!(checked instanceof ReadError)) return checked;
  // Where nothing can draw at all, as in a browser, that is known.
  return checked.code === 'unsupported' ? compared : { ...compared, notes: [...compared.notes, NOT_SEEN] };
}

const NOT_SEEN = 'Only the parts were compared: the two could not be drawn in the time that Ovrel allows.';

/** What is seen of it does not come from its parts. */
const isDrawnByItself = ({ content }: Seen<Design>): boolean => content.format?.draw !== undefined;

const penFor =
  ({ content }: Seen<Design>): Draw =>
  async (index, side) =>
    plainPicture(await drawnPage(content, index, side));

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
