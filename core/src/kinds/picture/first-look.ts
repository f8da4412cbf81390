/**
 * What can be said of two pictures that were made smaller before they were compared: kinds of change and where, no
 * sizes in pixels.
 */
import type { CauseDraft } from '../../causes/draft.ts';
import { say, type Saying } from '../../causes/say.ts';
import { sayNature, sayResampling } from '../../causes/sayings/picture.ts';
import type { CauseKind } from '../../contract/comparison.ts';
import { plainPicture } from '../../model/picture.ts';
import type { Bitmap } from '../../raster/bitmap.ts';
import { comparePictures } from './compare.ts';

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

/** Places that are named, at most. */
const NAMED = 3;

/** Sentences, the weightiest first; none where nothing was seen. */
export function firstLook(a: Bitmap, b: Bitmap): string[] {
  const { causes } = comparePictures(plainPicture(a), plainPicture(b));
  return causes
    .filter((cause) => !unsaid.has(cause.kind))
    .sort((p, q) => (q.weight ?? 0) - (p.weight ?? 0))
    .map(seenFromAfar);
}

function seenFromAfar({ saying }: CauseDraft): string {
  if (saying.code !== 'places') return withoutSizes(saying);
  const { nature, count, where } = saying.values;
  const places = where.length && where.length <= NAMED ? where.join(', ') : `${count} places`;
  return `${sayNature(nature)}: ${places}`;
}

/** What is measured in pixels is left to the comparison at full size. */
function withoutSizes(saying: Saying): string {
  if (saying.code === 'resampled') return sayResampling(saying.values);
  if (saying.code === 'shifted') return 'Shifted';
  if (saying.code === 'cropped') return 'Cropped';
  return say(saying);
}
