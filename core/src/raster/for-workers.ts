/** Comparing pictures where no file can be decoded by the core itself: in a browser's worker, which decodes them. */
export { summarise } from '../compare/summary.ts';
export type { Bitmap } from './bitmap.ts';
export { comparePictures } from './compare-pictures.ts';
export { firstLook, LOOK_SIDE } from './first-look.ts';
export { MOST_PIXELS, type Picture } from './picture.ts';
