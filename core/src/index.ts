/**
 * @ovrel/core: reading, comparing and storing versions. No interface, no database, nothing of Node's outside ./node.
 */
export type { Box } from './geometry/box.ts';
export * from './geometry/matrix.ts';
export type { Design, Part, Page, Definition, Geometry, Origin, Lettering } from './model/design.ts';
export { Exhausted, orUnreadable, ReadError, type ReadProblem } from './model/problem.ts';
export { kindIds, readKinds, type Card, type KindId, type Show } from './model/card.ts';
export { engine, lendEngines } from './model/engines.ts';
export { defaultLimits, type Limits } from './model/limits.ts';
export type { Format, OpenLayered, Pictures, ShowTag } from './model/format.ts';
export { designJson } from './model/to-json.ts';
export {
  cardOf,
  cards,
  detect,
  extensionOf,
  HEAD_BYTES,
  isDrawable,
  isSameFormat,
  promisedBy,
} from './formats/registry.ts';
export { open, type Content } from './kinds/content.ts';
export { modelOf, seenAs } from './kinds/conversions.ts';
export { kindOf } from './kinds/registry.ts';
export type { CompareOptions, ComparedParts, Kind, Seen } from './kinds/kind.ts';
export { BYTES_NOTE, compareFiles, ENGINE, type Compared } from './kinds/compare-files.ts';
export { assemble } from './causes/assemble.ts';
export { compareDesigns } from './kinds/drawing/compare.ts';
export { changeOutlinesSchema, noOutlines, type ChangeOutlines, type Outline } from './kinds/drawing/outlines.ts';
export { bytesChange } from './kinds/bytes/compare.ts';
export { plural } from './text/plural.ts';
export { similarity } from './text/similarity.ts';
export { chunkEnds, chunksOf, CHUNKER_VERSION, LARGEST_CHUNK } from './storage/chunker.ts';
export { DeltaBuilder, applyDelta, deltaBetween, packDelta, unpackDelta, type Delta } from './storage/delta.ts';
export { blockSizeFor, deltaFromSignature, signatureOf } from './storage/signature.ts';
export { compose, cut, pieceAt, Pieces } from './storage/pieces.ts';
export {
  innerSize,
  packRecipe,
  sizeOf,
  unpackRecipe,
  type DeflateSettings,
  type Segment,
} from './storage/container/recipe.ts';
export { zlibEngine, type DeflateEngine } from './storage/container/deflate.ts';
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
  type Whereabouts,
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
export { svgOf, type SvgOptions } from './kinds/drawing/draw/svg.ts';
export { pathOf as pathOfLayer, type PictureLayer } from './model/layers.ts';
export { pageList, type PageEntry } from './kinds/drawing/pages.ts';
export { pagesAsRead, type PageSoFar, type PagesSoFar } from './kinds/drawing/page-progress.ts';
export { titleBlocks } from './kinds/drawing/titleblock/fields.ts';
export { stepsOf } from './kinds/drawing/steps.ts';
export { csvRows, csvTable } from './report/csv.ts';
export { reportColumns, reportRows, type ReportRow } from './report/rows.ts';
export { cropsOf, type Crop } from './report/crops.ts';
export { changesAsDxf, changesAsSvg } from './report/drawing.ts';
export { packSpace, unpackSpace, type Space } from './kinds/solid/packed.ts';
export { solidFacts } from './kinds/solid/facts.ts';
export { spaceOf } from './kinds/solid/space.ts';
export { packTable } from './kinds/table/packed.ts';
export type { Workbook } from './model/workbook.ts';
export { flatDesign } from './kinds/solid/flat/draw.ts';
export { writtenFlat } from './kinds/solid/flat/write.ts';
export { flatViewsOf } from './kinds/solid/flat/views.ts';
export type { Solid } from './model/solid.ts';
export { sceneOf } from './kinds/drawing/draw/scene.ts';
export { packScene, unpackScene, type Scene, type SceneHead } from './kinds/drawing/draw/packed.ts';
export { sceneHeadSchema } from './kinds/drawing/draw/scene-head.ts';
export { DxfWriter, DxfEntities, type EntityLook, type LayerLook, type Point } from './formats/dxf/write.ts';
export { pageName, type Picture, type PictureFacts } from './model/picture.ts';
export { layerEntries } from './kinds/picture/kind.ts';
export { DRAWN_SIDE } from './kinds/picture/drawn/pages.ts';
export { carryOver, joinFiles, takeBack, takeBackChanges, type Carried } from './join/files.ts';
export type { Joined, JoinOptions } from './join/joined.ts';
export type { ChangedPart } from './join/units.ts';
export { hashBytes } from './geometry/hash.ts';
export {
  arranged,
  onItsOwn,
  placedAfter,
  placedBefore,
  stepsOfArrangement,
  takenOut,
  type ArrangedStep,
  type Arrangement,
} from './history/intake/arrangement.ts';
export { IN_PARTS, sentInParts } from './desk/in-parts.ts';
export { lookAtCopy } from './history/intake/look.ts';
export {
  intakePlan,
  type FoundCopy,
  type IntakePlan,
  type PlannedFile,
  type PlannedMember,
} from './history/intake/plan.ts';
export { inOrderOfBackups, numberedBackup } from './desk/numbered.ts';
export { isSameGlimpse, isScratch, Settling, type Glimpse } from './desk/settling.ts';
export {
  faultInSteps,
  grains,
  KEEP_ALL,
  sayGrain,
  sayRule,
  saySteps,
  sayVersionKind,
  versionKinds,
  type Grain,
  type KeepingRule,
  type KeepingStep,
  type VersionKind,
} from './history/keeping/rule.ts';
export { fates, holds, type Fate, type Hold, type KeptFile, type KeptVersion } from './history/keeping/going.ts';
export { proposeRule, tryOnPast, type PastFile, type PastVersion, type Trial } from './history/keeping/trial.ts';
export { inSittings, PAUSE, type SavedVersion } from './history/sittings.ts';
export { followed, stepInto, type Followed } from './history/followed.ts';
export { drawnFirst, drawnNext, type DrawnBy, type GonePart } from './history/drawn-by.ts';
