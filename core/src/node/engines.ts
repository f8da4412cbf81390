/** Lends the core what Node has: imported once by whatever runs the core on Node. */
import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { init, type WrappedPdfiumModule } from '@embedpdf/pdfium';
import { lendEngines } from '../model/engines.ts';
import { limitMemory } from './memory.ts';

lendEngines({
  pdf: loadPdf,
  pictures: async () => {
    const { encodePng, layeredFacts, lookAtPicture, openedLayered, openedPictures } = await import('./pictures.ts');
    const { openOra, openPsd } = await import('./layered.ts');
    return {
      facts: lookAtPicture,
      open: openedPictures,
      openOra,
      openPsd,
      openLayered: openedLayered,
      encodePng,
      layeredFacts,
    };
  },
  manifold: async () => {
    const { default: load } = await import('manifold-3d');
    const manifold = await load();
    manifold.setup();
    return manifold;
  },
  shapes: async () => (await import('./shapes.ts')).shapesOfStep,
  buildings: async () => (await import('./shapes.ts')).shapesOfBuilding,
  drawings: async () => ({ draw: (await import('./drawings.ts')).drawSvg }),
});

/** What an engine writes to the console when it stops is said in a sentence to whoever asked. */
const silent = { print: (): void => undefined, printErr: (): void => undefined };

limitMemory();

async function loadPdf(): Promise<WrappedPdfiumModule> {
  const file = createRequire(import.meta.url).resolve('@embedpdf/pdfium/pdfium.wasm');
  const bytes = await readFile(file);
  const wasmBinary = bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength);
  const engine = await init({ wasmBinary, ...silent });
  engine.PDFiumExt_Init();
  refuseDumb(engine);
  return engine;
}

/** The smallest document: an engine that cannot read it reads nothing. */
const CANARY =
  '%PDF-1.1\n1 0 obj<</Pages 2 0 R>>endobj 2 0 obj<</Kids[3 0 R]/Count 1>>endobj 3 0 obj<</MediaBox[0 0 3 3]>>endobj trailer<</Root 1 0 R>>';

/** Throws where a new engine does not read the canary. */
function refuseDumb(engine: WrappedPdfiumModule): void {
  const heap = (): Uint8Array => (engine.pdfium as unknown as { HEAPU8: Uint8Array }).HEAPU8;
  const bytes = new TextEncoder().encode(CANARY);
  const at = engine.pdfium.wasmExports.malloc(bytes.length);
  heap().set(bytes, at);
  const document = engine.FPDF_LoadMemDocument(at, bytes.length, '');
  const pages = document ? engine.FPDF_GetPageCount(document) : 0;
  if (document) engine.FPDF_CloseDocument(document);
  engine.pdfium.wasmExports.free(at);
  if (pages !== 1) throw new Error('the engine for PDF documents does not read any');
}
