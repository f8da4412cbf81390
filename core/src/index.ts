/** @ovrel/core: reading, comparing and storing versions. No interface, no database, nothing of Node's outside ./node. */
export type { Box } from './geometry/box.ts';
export * from './geometry/matrix.ts';
export type { Design, Part, Page, Definition, Geometry, Origin, Lettering } from './model/design.ts';
export { ReadError } from './model/problem.ts';
export { defaultLimits, type Limits } from './model/limits.ts';
export type { Format } from './model/format.ts';
export { designJson } from './model/to-json.ts';
export { detect, formatById, formats, promisedBy, extensionOf, HEAD_BYTES } from './formats/registry.ts';
export { open, type Opened, type Level } from './formats/open.ts';
export { BYTES_NOTE, compare, ENGINE, type Compared, type Input } from './compare-files.ts';
export { compareDesigns } from './compare/compare.ts';
export { pictureOf, pictureSchema, type Picture, type Outline } from './compare/picture.ts';
export { bytesChange } from './compare/bytes.ts';
export { viewTag } from './formats/svg/view.ts';
export { plural } from './compare/say.ts';
export { similarity } from './text/similarity.ts';
export { Chunker, CHUNKER_VERSION } from './storage/chunker.ts';
export * from './contract/index.ts';
