import sharp from 'sharp';
import { runTask } from '../compute/pool.ts';
import { maybeBytes } from './codec.ts';
import { computed, known, unlessTooHeavy, type Fact } from './fact.ts';
import { hasPicture, isReadable, sourceOf, type Subject } from './subject.ts';

/** Longer sides of thumbnails, in pixels. */
export type ThumbnailSide = 96 | 320 | 1024;

interface Key {
  readonly subject: Subject;
  readonly side: ThumbnailSide;
}

const thumbnail: Fact<Key, Buffer | undefined> = {
  name: 'thumbnail',
  version: 3,
  placeOf: ({ subject, side }) => ({ contentId: subject.content_id, detail: String(side) }),
  codec: maybeBytes,
  async compute({ subject, side }) {
    if (side === 96) return smaller(await computed(thumbnail, { subject, side: 320 }), side);
    const png = await runTask('thumbnail', { source: sourceOf(subject), side });
    return png ? Buffer.from(png) : undefined;
  },
};

const smaller = async (png: Buffer | undefined, side: number): Promise<Buffer | undefined> =>
  png && sharp(png).resize(side, side, { fit: 'inside', withoutEnlargement: true }).png().toBuffer();

export const mayHaveThumbnail = (subject: Subject): boolean => hasPicture(subject) && isReadable(subject);

/** A PNG; undefined where the content has no picture. */
export const thumbnailOf = async (subject: Subject, side: ThumbnailSide): Promise<Buffer | undefined> =>
  mayHaveThumbnail(subject) ? unlessTooHeavy(computed(thumbnail, { subject, side }), () => undefined) : undefined;

/** The same if it was drawn already; `undefined` where it was not. */
export const knownThumbnail = (
  subject: Subject,
  side: ThumbnailSide,
): Promise<{ value: Buffer | undefined } | undefined> => known(thumbnail, { subject, side });
