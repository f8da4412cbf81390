/** What a viewer needs of pictures: which formats are, and their differences. */
export { THRESHOLD, CELL } from './difference.ts';
export { unpackMap } from './packed-map.ts';
export { regionsOf, type MapForRegions, type Region } from './regions.ts';
export { deltaE, labOf } from './lab.ts';
export { pictureFormats } from './picture.ts';
