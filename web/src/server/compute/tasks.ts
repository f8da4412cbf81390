/** What runs in a worker thread: pure functions from bytes to results. The types of both ends are here. */
import { gzipSync, zstdCompressSync } from 'node:zlib';
import {
  changesAsDxf,
  changesAsSvg,
  chunkEnds,
  compare,
  cropsOf,
  ReadError,
  followParts,
  open,
  partAtPoint,
  packScene,
  referencesOf,
  sceneOf,
  stepsOf,
  svgOf,
  LOCKED,
  pagesAsRead,
  type PageEntry,
  type PagesSoFar,
  titleBlocks,
  type Box,
  type Reference,
  packRecipe,
  sketchOf,
  unpack,
  viewTag,
  zlibEngine,
  layeredFormats,
  pictureFormats,
  type Comparison,
  type Crop,
  type DeflateSettings,
  type Engine,
  type Picture,
} from '@ovrel/core';
import type { PictureCrop } from '@ovrel/core/node';
import type { Look } from '../../contract/look.ts';
import { chunkHash, HASH_BYTES } from '../store/codec.ts';

export interface Source {
  readonly bytes: Uint8Array;
  readonly name: string;
}

export type Task =
  | { readonly kind: 'look'; readonly source: Source }
  | { readonly kind: 'compare'; readonly a: Source; readonly b: Source; readonly tolerance?: number }
  | { readonly kind: 'pages'; readonly a: Source; readonly b: Source }
  | { readonly kind: 'unpack'; readonly bytes: Uint8Array; readonly hints: readonly DeflateSettings[] }
  | { readonly kind: 'deflate'; readonly bytes: Uint8Array; readonly settings: DeflateSettings }
  | { readonly kind: 'scene'; readonly source: Source; readonly page: number }
  | { readonly kind: 'png'; readonly source: Source; readonly page: number; readonly side: number; readonly box?: Box }
  | { readonly kind: 'unlock'; readonly source: Source; readonly password: string }
  | { readonly kind: 'drawn'; readonly source: Source; readonly page: number }
  | { readonly kind: 'layer'; readonly source: Source; readonly layer: number }
  | { readonly kind: 'ora'; readonly source: Source }
  | { readonly kind: 'drawing'; readonly source: Source; readonly page: number; readonly box?: Box }
  | { readonly kind: 'changes'; readonly a: Source; readonly b: Source; readonly as: 'dxf' | 'svg' }
  | { readonly kind: 'crops'; readonly a: Source; readonly b: Source; readonly most: number }
  | {
      readonly kind: 'picture-crops';
      readonly a: Source;
      readonly b: Source;
      readonly comparison: Pick<Comparison, 'causes' | 'changes'>;
      readonly most: number;
    }
  | {
      readonly kind: 'locate';
      readonly source: Source;
      readonly at:
        | { readonly page: string; readonly x: number; readonly y: number; readonly reach: number }
        | { readonly part: number };
    }
  | { readonly kind: 'follow'; readonly a: Source; readonly b: Source; readonly parts: readonly number[] }
  | { readonly kind: 'steps'; readonly chain: readonly Source[]; readonly tolerance?: number }
  | { readonly kind: 'references'; readonly source: Source }
  | { readonly kind: 'sketch'; readonly source: Source }
  | { readonly kind: 'cut'; readonly bytes: Uint8Array; readonly last: boolean };

/** The bytes that go with a task. */
export const bytesOf = (task: Task): Uint8Array[] =>
  'source' in task
    ? [task.source.bytes]
    : 'chain' in task
      ? task.chain.map((s) => s.bytes)
      : 'a' in task
        ? [task.a.bytes, task.b.bytes]
        : [task.bytes];

export interface ComparisonResult {
  readonly comparison: Comparison;
  readonly picture: Picture;
}

/** As it is kept: of pictures with the differences of their squares, in base64. */
export interface KeptComparison extends ComparisonResult {
  readonly map?: string;
}

export interface Results {
  look: Look;
  /** Compressed JSON of a KeptComparison, and its summary. */
  compare: { value: Uint8Array; summary: string };
  /** Which pages of two documents changed; null where they have no pages to be paired. */
  pages: PageEntry[] | null;
  /** The opened stream and the recipe that rebuilds the container from it; null where nothing could be opened. */
  unpack: {
    stream: Uint8Array;
    recipe: string;
    opened: number;
    closed: number;
    settings: readonly DeflateSettings[];
  } | null;
  deflate: Uint8Array;
  cut: Cut;
  /** A packed scene (core/src/draw/packed.ts), gzipped; empty where the content has no such page. */
  scene: Uint8Array;
  /** The picture, or a page of a document with its longer side of `side` pixels, as PNG; null where it cannot be drawn. */
  png: Uint8Array | null;
  /** A document without its lock; null where the password is not the right one. */
  unlock: Uint8Array | null;
  /** A page as it is compared with one of another kind, as PNG; null where it cannot be drawn. */
  drawn: Uint8Array | null;
  /** One layer on its canvas, as PNG; null where there is no such layer. */
  layer: Uint8Array | null;
  /** A layered picture as OpenRaster; null where it cannot be read. */
  ora: Uint8Array | null;
  /** The page as an SVG drawing, in UTF-8; empty where the content has no such page. */
  drawing: Uint8Array;
  /** The changed parts alone, as a drawing in UTF-8. */
  changes: Uint8Array;
  crops: Crop[];
  'picture-crops': PictureCrop[];
  /** The part at a point, or of a number; null where there is none. */
  locate: Located | null;
  /** For each part that was asked for, where it is in B; null where it is gone. */
  follow: (Located | null)[];
  /** For each change between the ends of a chain, by its id, the steps that touched its part (stepsOf), from 0. */
  steps: Record<string, number[]>;
  references: Reference[];
  sketch: Uint32Array;
}

export interface Located {
  readonly part: number;
  readonly page: string;
  readonly box: readonly [number, number, number, number] | null;
  readonly about: { readonly kind: string; readonly name: string; readonly category: string };
}

/** Bytes as they were given, where their chunks end, and the hash of each chunk, one after the other. */
export interface Cut {
  readonly bytes: Uint8Array;
  readonly ends: readonly number[];
  readonly hashes: Uint8Array;
}

/** Memory that goes back with a result instead of being copied. */
export const returned = (task: Task, result: Results[Task['kind']]): ArrayBuffer[] =>
  task.kind === 'cut' ? [(result as Cut).bytes.buffer as ArrayBuffer] : [];

const engines: readonly Engine[] = [zlibEngine];

/** `report`: what is known so far, of tasks that say so. */
export function perform(
  task: Task,
  report: (soFar: PagesSoFar) => void = () => undefined,
): Results[Task['kind']] | Promise<Results[Task['kind']]> {
  switch (task.kind) {
    case 'look':
      return look(task.source);
    case 'compare':
      return compareSources(task.a, task.b, task.tolerance);
    case 'pages':
      return changedPages(task.a, task.b, report);
    case 'unpack':
      return unpackBytes(task.bytes, task.hints);
    case 'deflate':
      return deflateBytes(task.bytes, task.settings);
    case 'scene':
      return sceneBytes(task.source, task.page);
    case 'png':
      return asPng(task.source, task.page, task.side, task.box);
    case 'unlock':
      return unlocked(task.source, task.password);
    case 'drawn':
      return asDrawn(task.source, task.page);
    case 'layer':
      return oneLayer(task.source, task.layer);
    case 'ora':
      return asOpenRaster(task.source);
    case 'drawing':
      return drawingBytes(task.source, task.page, task.box);
    case 'changes':
      return changedParts(task.a, task.b, task.as);
    case 'crops':
      return crops(task.a, task.b, task.most);
    case 'picture-crops':
      return pictureCrops(task.a, task.b, task.comparison, task.most);
    case 'locate':
      return locate(task.source, task.at);
    case 'follow':
      return follow(task.a, task.b, task.parts);
    case 'steps':
      return steps(task.chain, task.tolerance);
    case 'references':
      return referencesOf(task.source.bytes, task.source.name);
    case 'sketch':
      return sketchOf(task.source.bytes);
    case 'cut':
      return cutBytes(task.bytes, task.last);
  }
}

type Drawn = NonNullable<ReturnType<typeof open>['design']>;

function located(design: Drawn | undefined, part: number): Located | null {
  const found = design?.parts[part];
  return found && design
    ? {
        part,
        page: design.pages[found.page]?.name ?? '',
        box: found.box ?? null,
        about: { kind: found.kind, name: found.name, category: found.category },
      }
    : null;
}

function locate({ bytes, name }: Source, at: Extract<Task, { kind: 'locate' }>['at']): Located | null {
  const { design } = open(bytes, name);
  if (!design || 'part' in at) return located(design, 'part' in at ? at.part : -1);
  return located(
    design,
    design.sequential
      ? -1
      : partAtPoint(
          design,
          Math.max(
            0,
            design.pages.findIndex((p) => p.name === at.page),
          ),
          at.x,
          at.y,
          at.reach,
        ),
  );
}

function follow(a: Source, b: Source, parts: readonly number[]): (Located | null)[] {
  const from = open(a.bytes, a.name).design;
  const to = open(b.bytes, b.name).design;
  return from && to ? followParts(from, to, parts).map((j) => located(to, j)) : parts.map(() => null);
}

/** Formats that no browser shows: they are drawn from their parts. */
const drawnFromParts: ReadonlySet<string> = new Set(['dxf']);
/** SVG drawings of more parts than this are drawn so, too: a browser takes too long over each frame. */
const MANY_PARTS = 60_000;

function sceneBytes({ bytes, name }: Source, page: number): Uint8Array {
  const { design } = open(bytes, name);
  return design?.pages[page] && !design.sequential
    ? gzipSync(packScene(sceneOf(design, page)), { level: 3 })
    : new Uint8Array();
}

function drawingBytes({ bytes, name }: Source, page: number, box: Box | undefined): Uint8Array {
  const { design } = open(bytes, name);
  return design?.pages[page] && !design.sequential
    ? new TextEncoder().encode(svgOf(design, page, box ? { box } : {}))
    : new Uint8Array();
}

async function look({ bytes, name }: Source): Promise<Look> {
  const { format, level, design, problem } = open(bytes, name);
  if (format && pictureFormats.has(format.id)) return lookAtPixels(bytes, format, problem?.sentence);
  const page = design?.pages[0];
  const tag = level === 'parts' && format?.id === 'svg' && page ? viewTag(bytes, page.box) : undefined;
  const tally = (names: string[]): Record<string, number> =>
    names.reduce<Record<string, number>>((out, n) => Object.assign(out, { [n]: (out[n] ?? 0) + 1 }), {});
  return {
    level,
    format: format?.id ?? null,
    formatTitle: format?.title ?? null,
    problem: problem?.sentence ?? null,
    locked: problem?.sentence === LOCKED,
    program: design?.origin.program ?? null,
    units: design?.origin.units ?? null,
    page: level === 'parts' && page ? { box: [...page.box], unitMillimetres: page.unitMillimetres ?? null } : null,
    pages: level === 'parts' ? (design?.pages.map((p) => p.name) ?? []) : [],
    pageBoxes: level === 'parts' ? (design?.pages.map((p) => [...p.box]) ?? []) : [],
    scene:
      level === 'parts' &&
      (drawnFromParts.has(design?.format ?? '') || (format?.id === 'svg' && (design?.parts.length ?? 0) > MANY_PARTS)),
    formatVersion: design?.origin.formatVersion ?? null,
    parts: level === 'parts' ? (design?.parts.length ?? 0) : 0,
    lines: level === 'text' ? (design?.parts.length ?? 0) : 0,
    kinds: level === 'parts' ? tally(design?.parts.map((p) => p.kind) ?? []) : {},
    titleBlocks:
      level === 'parts' && design
        ? titleBlocks(design).flatMap((fields, k) => (fields ? [{ page: design.pages[k]?.name ?? '', fields }] : []))
        : [],
    picture: null,
    layers: [],
    notes: [...(design?.notes ?? [])],
    viewTag: tag ?? null,
  };
}

async function lookAtPixels(
  bytes: Uint8Array,
  format: NonNullable<ReturnType<typeof open>['format']>,
  named: string | undefined,
): Promise<Look> {
  const { decodePicture, layerEntries, lookAtPicture, pageName, pagesOf } = await import(
    /* turbopackIgnore: true */ '@ovrel/core/node'
  );
  const nothing = {
    locked: false,
    format: format.id,
    formatTitle: format.title,
    program: null,
    units: null,
    page: null,
    pages: [],
    pageBoxes: [],
    scene: false,
    formatVersion: null,
    parts: 0,
    lines: 0,
    kinds: {},
    layers: [],
    titleBlocks: [],
    viewTag: null,
  };
  try {
    const { width, height, depth, density, profile, colours, transparent, pages, notes, layered } = await lookAtPicture(
      bytes,
      format.id,
    );
    const whole = width * height <= DECODED ? await decodePicture(bytes, format.id) : { notes, lostFrom: undefined };
    return {
      ...nothing,
      level: 'pixels',
      problem: null,
      units: 'px',
      page: { box: [0, 0, width, height], unitMillimetres: density ? 25.4 / density : null },
      ...(pagesOf({ format: format.id, pages }) > 1
        ? { pages: Array.from({ length: pages }, (_, k) => pageName(format.id, k)), pageBoxes: [] }
        : { pages: ['Picture'], pageBoxes: [[0, 0, width, height]] }),
      layers: layered ? layerEntries(layered) : [],
      picture: {
        width,
        height,
        depth,
        density: density ?? null,
        profile: profile ?? null,
        colours,
        transparent,
        pages,
        damaged: whole.lostFrom !== undefined,
      },
      notes: [...(named ? [named] : []), ...whole.notes],
    };
  } catch (error) {
    return {
      ...nothing,
      level: 'bytes',
      problem: [named, error instanceof Error ? error.message : String(error)].filter(Boolean).join(' '),
      picture: null,
      notes: [],
    };
  }
}

/** Pixels up to which a picture is decoded only to see whether it is whole. */
const DECODED = 60_000_000;

function unpackBytes(bytes: Uint8Array, hints: readonly DeflateSettings[]): Results['unpack'] {
  const found = unpack(bytes, engines, hints);
  return found
    ? {
        stream: found.stream,
        recipe: packRecipe(found.segments),
        opened: found.opened,
        closed: found.closed,
        settings: found.settings,
      }
    : null;
}

function deflateBytes(bytes: Uint8Array, settings: DeflateSettings): Uint8Array {
  const out = engines.find((engine) => engine.id === settings.engine)?.deflate(bytes, settings);
  if (!out) throw new Error(`There is no deflate engine “${settings.engine}” here.`);
  return out;
}

/** The chunks of a piece of a content (chunkEnds), with their hashes. */
export function cutBytes(bytes: Uint8Array, last: boolean): Cut {
  const ends = chunkEnds(bytes, last);
  const hashes = new Uint8Array(ends.length * HASH_BYTES);
  ends.forEach((end, i) => hashes.set(chunkHash(bytes.subarray(ends[i - 1] ?? 0, end)), i * HASH_BYTES));
  return { bytes, ends, hashes };
}

const comparedSources = (a: Source, b: Source, tolerance?: number): ReturnType<typeof compare> =>
  compare(
    { ...a, opened: open(a.bytes, a.name) },
    { ...b, opened: open(b.bytes, b.name) },
    tolerance === undefined ? {} : { tolerance },
  );

function changedParts(a: Source, b: Source, as: 'dxf' | 'svg'): Uint8Array {
  const compared = comparedSources(a, b);
  return new TextEncoder().encode(as === 'dxf' ? changesAsDxf(compared) : changesAsSvg(compared));
}

function steps(chain: readonly Source[], tolerance: number | undefined): Results['steps'] {
  const [first] = chain;
  const last = chain.at(-1);
  if (!first || !last) return {};
  const whole = comparedSources(first, last, tolerance);
  const { level, changes } = whole.comparison;
  if (level === 'bytes') return {};
  // Levels as they are compared between the ends: where one version in between cannot be read so, nothing is said.
  const designs = function* (): Generator<NonNullable<ReturnType<typeof open>['design']>> {
    for (const { bytes, name } of chain) {
      const opened = open(bytes, name);
      if (opened.design && opened.level === level) yield opened.design;
      else throw new Unreadable();
    }
  };
  try {
    const touched = stepsOf(whole, designs(), tolerance === undefined ? {} : { tolerance });
    return Object.fromEntries(changes.map((c, n) => [c.id, (touched[n] ?? []).map((step) => step - 1)]));
  } catch (error) {
    if (error instanceof Unreadable) return {};
    throw error;
  }
}

class Unreadable extends Error {}

function crops(a: Source, b: Source, most: number): Crop[] {
  const { comparison, designA, designB } = comparedSources(a, b);
  return cropsOf(comparison, designA, designB, most);
}

/** Milliseconds between two reports. */
const OFTEN = 150;

function changedPages(a: Source, b: Source, report: (soFar: PagesSoFar) => void): PageEntry[] | null {
  let told = Date.now();
  try {
    return pagesAsRead(a.bytes, b.bytes, (soFar) => {
      if (Date.now() - told < OFTEN) return;
      told = Date.now();
      report(soFar());
    });
  } catch (error) {
    if (error instanceof ReadError) return null;
    throw error;
  }
}

async function asPng(
  { bytes, name }: Source,
  page: number,
  side: number,
  box: Box | undefined,
): Promise<Uint8Array | null> {
  const { decodePicture, drawPdfPage, encodePng, hatched } = await import(
    /* turbopackIgnore: true */ '@ovrel/core/node'
  );
  const format = open(bytes, name).format?.id ?? '';
  return orNothing(async () =>
    encodePng(
      format === 'pdf' ? drawPdfPage(bytes, page, side, box) : hatched(await decodePicture(bytes, format, page)),
    ),
  );
}

async function unlocked({ bytes }: Source, password: string): Promise<Uint8Array | null> {
  const { unlockPdf } = await import(/* turbopackIgnore: true */ '@ovrel/core/node');
  return orNothing(() => Promise.resolve(unlockPdf(bytes, password) ?? null));
}

async function asDrawn(source: Source, page: number): Promise<Uint8Array | null> {
  const { DRAWN_SIDE, drawPage, encodePng } = await import(/* turbopackIgnore: true */ '@ovrel/core/node');
  return orNothing(async () =>
    encodePng(await drawPage({ ...source, opened: open(source.bytes, source.name) }, page, DRAWN_SIDE)),
  );
}

async function oneLayer({ bytes, name }: Source, layer: number): Promise<Uint8Array | null> {
  const { encodePng, openLayered } = await import(/* turbopackIgnore: true */ '@ovrel/core/node');
  const format = open(bytes, name).format?.id ?? '';
  return layeredFormats.has(format)
    ? orNothing(async () => {
        const picture = await openLayered(bytes, format);
        const inside = new Set([layer]);
        // Of a group, all that it holds and does not hide.
        picture.layers.forEach((l, k) => {
          if (inside.has(l.group) && !l.hidden) inside.add(k);
        });
        return picture.layers[layer] ? encodePng(await picture.compose(inside)) : null;
      })
    : null;
}

async function asOpenRaster({ bytes, name }: Source): Promise<Uint8Array | null> {
  const { asOra, openLayered } = await import(/* turbopackIgnore: true */ '@ovrel/core/node');
  const format = open(bytes, name).format?.id ?? '';
  return layeredFormats.has(format) ? orNothing(async () => asOra(await openLayered(bytes, format))) : null;
}

/** Null for what cannot be read. */
async function orNothing<T>(work: () => Promise<T>): Promise<T | null> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof ReadError) return null;
    throw error;
  }
}

async function pictureCrops(
  a: Source,
  b: Source,
  comparison: Pick<Comparison, 'causes' | 'changes'>,
  most: number,
): Promise<PictureCrop[]> {
  const { picturesCropped } = await import(/* turbopackIgnore: true */ '@ovrel/core/node');
  const of = ({ bytes, name }: Source): { bytes: Uint8Array; format: string } => ({
    bytes,
    format: open(bytes, name).format?.id ?? '',
  });
  return picturesCropped(of(a), of(b), comparison, most);
}

async function compareSources(a: Source, b: Source, tolerance: number | undefined): Promise<Results['compare']> {
  const { compareAny } = await import(/* turbopackIgnore: true */ '@ovrel/core/node');
  const { comparison, picture, map } = await compareAny(
    { ...a, opened: open(a.bytes, a.name) },
    { ...b, opened: open(b.bytes, b.name) },
    tolerance === undefined ? {} : { tolerance },
  );
  const result: KeptComparison = { comparison, picture, ...(map ? { map: Buffer.from(map).toString('base64') } : {}) };
  return { value: zstdCompressSync(JSON.stringify(result)), summary: comparison.summary };
}
