/**
 * What the core needs and does not have itself: whoever runs it lends it engines, which are loaded when they are
 * first asked for.
 */
import type { WrappedPdfiumModule } from '@embedpdf/pdfium';
import type { ManifoldToplevel } from 'manifold-3d';
import type { Bitmap } from '../raster/bitmap.ts';
import type { Card } from './card.ts';
import type { OpenLayered, Pictures } from './format.ts';
import type { PictureFacts } from './picture.ts';
import { ReadError } from './problem.ts';
import type { BuildingEngine, ShapeEngine } from './shape-engine.ts';

/** Decodes pictures, colour-managed and upright, into sRGB. All throw ReadError with a sentence. */
export interface PictureEngine {
  facts(bytes: Uint8Array, card: Card): Promise<PictureFacts>;
  open(bytes: Uint8Array, card: Card): Promise<Pictures>;
  openOra(bytes: Uint8Array): Promise<OpenLayered>;
  openPsd(bytes: Uint8Array): Promise<OpenLayered>;
  openLayered(layered: OpenLayered, card: Card): Promise<Pictures>;
  /** Pixels as PNG; with `side`, no larger than that. */
  encodePng(bitmap: Bitmap, side?: number): Promise<Uint8Array>;
  layeredFacts(layered: OpenLayered, card: Card): PictureFacts;
}

/**
 * Draws SVG on white, within a limit on time that depends on how large the file is that it was made of: few bytes that
 * take long are made to. Throws ReadError with a sentence.
 */
export interface DrawingEngine {
  draw(svg: Uint8Array, side: number, fileSize?: number): Promise<Bitmap>;
}

export interface Engines {
  readonly pdf: WrappedPdfiumModule;
  readonly pictures: PictureEngine;
  readonly drawings: DrawingEngine;
  /** Bodies added to and taken from one another. */
  readonly manifold: ManifoldToplevel;
  /** Surfaces of STEP models. */
  readonly shapes: ShapeEngine;
  /** Surfaces of building models. */
  readonly buildings: BuildingEngine;
}

type Loaders = { readonly [Name in keyof Engines]: () => Promise<Engines[Name]> };

const missing: Readonly<Record<keyof Engines, string>> = {
  pdf: 'PDF documents are looked into on the server only.',
  pictures: 'Pictures are looked into on the server only.',
  drawings: 'Drawings are drawn on the server only.',
  shapes: 'Shapes of models with curved faces are worked out on the server only.',
  buildings: 'Shapes of building models are worked out on the server only.',
  manifold: 'Bodies are taken from one another on the server only.',
};

let loaders: Partial<Loaders> = {};
const loaded = new Map<keyof Engines, Promise<unknown>>();

export function lendEngines(lent: Partial<Loaders>): void {
  loaders = { ...loaders, ...lent };
}

/** Throws ReadError where nobody lent it. */
export async function engine<Name extends keyof Engines>(name: Name): Promise<Engines[Name]> {
  const load = loaders[name];
  if (!load) throw new ReadError(missing[name], undefined, 'unsupported');
  const loading = loaded.get(name) ?? load();
  loaded.set(name, loading);
  return (await loading) as Engines[Name];
}

/** Throws an engine away, with all that it holds: whoever asks next gets a new one. */
export const renewEngine = (name: keyof Engines): void => {
  loaded.delete(name);
};
