/** Comparing pictures where no file can be decoded by the core itself: in a browser's worker, which decodes them. */
export { assemble } from '../../causes/assemble.ts';
export { summarise } from '../../causes/summary.ts';
export type { Bitmap } from '../../raster/bitmap.ts';
export { comparePictures } from './compare.ts';
export { firstLook, LOOK_SIDE } from './first-look.ts';
export { MOST_PIXELS, plainPicture, type Picture } from '../../model/picture.ts';
