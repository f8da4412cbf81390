/** Flat pictures of one size: joined, taken back and carried over by their pixels as they are stored. */
import type { Box } from '../geometry/box.ts';
import type { Content } from '../kinds/content.ts';
import { ReadError } from '../model/problem.ts';
import type { Raster, RasterFormat } from '../model/raster.ts';
import type { Joined, JoinOptions } from './joined.ts';
import { misfit, paintedOver, paintedTogether, type Painted } from './squares.ts';

/** Whether the pixels of these can be put into one another, as far as their formats go. */
export const isRaster = (...contents: readonly Content[]): boolean =>
  contents.every((c) => c.kinds[0] === 'picture' && c.card === contents[0]?.card && c.format?.raster !== undefined);

function rasterOf({ format }: Content): RasterFormat {
  if (!format?.raster) throw new ReadError('Parts of such pictures cannot be exchanged.', undefined, 'unsupported');
  return format.raster;
}

const read = (content: Content): Raster => rasterOf(content).read(content.bytes);

/** Undefined where only the whole of one can be taken: other formats, sizes or colours. */
export async function joinedPictures(
  base: Content,
  ours: Content,
  theirs: Content,
  options: JoinOptions,
): Promise<Joined | undefined> {
  if (!isRaster(base, ours, theirs)) return undefined;
  const sides = readAll(base, ours, theirs);
  if (!sides || (misfit(sides.base, sides.ours) ?? misfit(sides.base, sides.theirs))) return undefined;
  return written(ours, paintedTogether({ ...sides, ...options }));
}

/** Undefined where one is stored in a way that is not taken apart. */
function readAll(
  base: Content,
  ours: Content,
  theirs: Content,
): Record<'base' | 'ours' | 'theirs', Raster> | undefined {
  try {
    return { base: read(base), ours: read(ours), theirs: read(theirs) };
  } catch (error) {
    if (error instanceof ReadError) return undefined;
    throw error;
  }
}

/** The newest without what was painted from A to B in places that meet these boxes. */
export const takenBackFromPicture = (
  a: Content,
  b: Content,
  newest: Content,
  within: readonly Box[],
  options: JoinOptions,
): Joined =>
  written(newest, paintedTogether({ base: read(b), ours: read(newest), theirs: read(a), within, ...options }));

/** `into` with rectangles of `from`, in pixels. */
export const carriedIntoPicture = (from: Content, into: Content, boxes: readonly Box[]): Joined =>
  written(into, paintedOver(read(into), read(from), boxes));

/** The file with these pixels. It is read again: they must come back as they are. */
function written(ours: Content, { rows, clashes, changed }: Painted): Joined {
  const told = { clashes, inseparable: [], changed };
  if (!changed) return { ...told, bytes: ours.bytes };
  const raster = rasterOf(ours);
  const bytes = raster.write(ours.bytes, rows);
  const result = raster.read(bytes);
  if (misfit(result, raster.read(ours.bytes)) !== undefined || !isSame(result.rows, rows))
    throw new ReadError(
      'What was made of the two was read again and is not what was promised, so nothing was changed.',
      undefined,
      'unsupported',
    );
  return { ...told, bytes };
}

const isSame = (a: Uint8Array, b: Uint8Array): boolean =>
  a.length === b.length && a.every((value, k) => value === b[k]);
