/** What can be said of two pictures that were made smaller before they were compared: kinds of change and where, no sizes in pixels. */
import type { CauseKind } from '../contract/comparison.ts';
import { comparePictures } from './compare-pictures.ts';
import type { Bitmap } from './bitmap.ts';

/** Longest side of the pictures of a first look, in pixels. */
export const LOOK_SIDE = 900;

/** Small pictures say nothing reliable of these, or the whole comparison says them from the files. */
const unsaid: ReadonlySet<CauseKind> = new Set([
  'recompressed',
  'rewritten',
  'profile',
  'property',
  'page',
  'sharpness',
]);

/** Sentences, the weightiest first; none where nothing was seen. */
export function firstLook(a: Bitmap, b: Bitmap): string[] {
  const picture = (bitmap: Bitmap): Parameters<typeof comparePictures>[0] => ({
    bitmap,
    format: '',
    depth: 8,
    density: undefined,
    profile: undefined,
    colours: '',
    transparent: false,
    pages: 1,
    notes: [],
  });
  const { causes, changes } = comparePictures(picture(a), picture(b));
  const where = new Map(changes.map((c) => [c.id, c.part.name.replace(/^\d+, /, '')]));
  return causes
    .filter((c) => !unsaid.has(c.kind))
    .map(({ kind, sentence, changes: of }) => {
      // What is measured in pixels is left to the comparison at full size.
      const said =
        kind === 'motion'
          ? 'Moved'
          : kind === 'origin'
            ? 'Shifted'
            : kind === 'tone' || kind === 'resampled'
              ? sentence.replace(/: \d.*$/, '')
              : sentence.replace(/:.*$/, '');
      const places = [...new Set(of.map((id) => where.get(id) ?? ''))];
      return places.length ? `${said}: ${places.length > 3 ? `${places.length} places` : places.join(', ')}` : said;
    });
}
