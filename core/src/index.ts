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
export { plural } from './text/plural.ts';
export { similarity } from './text/similarity.ts';
export { chunkEnds, chunksOf, CHUNKER_VERSION, LARGEST_CHUNK } from './storage/chunker.ts';
export { DeltaBuilder, applyDelta, deltaBetween, packDelta, unpackDelta, type Delta } from './storage/delta.ts';
export { compose, cut, pieceAt, Pieces } from './storage/pieces.ts';
export {
  innerSize,
  packRecipe,
  sizeOf,
  unpackRecipe,
  type DeflateSettings,
  type Segment,
} from './storage/container/recipe.ts';
export { zlibEngine, type Engine } from './storage/container/deflate.ts';
export { isContainer, unpack, unpackLimits, type Unpacked } from './storage/container/unpack.ts';
export { writerOf } from './storage/container/program.ts';
export { rebuild } from './storage/container/rebuild.ts';
export * from './contract/index.ts';
export { referencesOf, MOST_REFERENCES } from './references/find.ts';
export {
  isWeb,
  joined,
  pathOf,
  referenceKinds,
  resolve,
  type Found,
  type Reference,
  type ReferenceKind,
  type Resolved,
} from './references/reference.ts';
export { ALIKE, likeness, SKETCH, sketchOf } from './desk/sketch.ts';
export {
  deskStatus,
  deskStatuses,
  guesses,
  type DeskStatus,
  type Guess,
  type Kept,
  type Local,
} from './desk/status.ts';
export { svgOf, type SvgOptions } from './draw/svg.ts';
export { LOCKED } from './formats/pdf/engine.ts';
export { pathOf as pathOfLayer, type PictureLayer } from './raster/layers.ts';
export { pageList, type PageEntry } from './compare/pages.ts';
export { pagesAsRead, type PageSoFar, type PagesSoFar } from './page-progress.ts';
export { titleBlocks } from './titleblock/fields.ts';
export { followParts, partAtPoint } from './compare/follow.ts';
export { stepsOf } from './compare/steps.ts';
export { csvOf, reportColumns, reportRows, type ReportRow } from './report/rows.ts';
export { cropsOf, type Crop } from './report/crops.ts';
export { changesAsDxf, changesAsSvg } from './report/drawing.ts';
export { sceneOf } from './draw/scene.ts';
export { packScene, unpackScene, type Scene, type SceneHead } from './draw/packed.ts';
export { sceneHeadSchema } from './draw/scene-head.ts';
export { DxfWriter, DxfEntities, type EntityLook, type LayerLook, type Point } from './formats/dxf/write.ts';
export { layeredFormats, pictureFormats } from './raster/picture.ts';
