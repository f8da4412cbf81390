/** What a viewer needs of pictures: which formats are, and their differences. */
export { THRESHOLD, CELL } from './difference/difference-map.ts';
export { unpackMap } from './difference/packed-map.ts';
export { regionsOf, type MapForRegions, type Region } from './difference/regions.ts';
export { deltaE, labOf } from './tone/lab.ts';
