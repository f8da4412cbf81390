/** Lends the core what Node has: imported once by whatever runs the core on Node. */
import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { init, type WrappedPdfiumModule } from '@embedpdf/pdfium';
import { lendEngines } from '../model/engines.ts';
import type { ShapeEngine } from '../model/shape-engine.ts';

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
  shapes: loadShapes,
  buildings: async () => {
    const { IfcAPI, LogLevel } = await import('web-ifc');
    const api = new IfcAPI();
    await api.Init();
    api.SetLogLevel(LogLevel.LOG_LEVEL_OFF);
    return api;
  },
  drawings: async () => ({ draw: (await import('./drawings.ts')).drawSvg }),
});

/** What an engine writes to the console when it stops is said in a sentence to whoever asked. */
const silent = { print: (): void => undefined, printErr: (): void => undefined };

/** Bytes that the memory of an engine may grow to; the module's own limit is 2 GB. */
const MOST_MEMORY = 768 * 1024 ** 2;
const PAGE = 65_536;

/** Engines ask for more memory through this; refused, they stop, and are thrown away. */
function limitMemory(): void {
  // eslint-disable-next-line @typescript-eslint/unbound-method -- called on the memory that is to grow
  const { grow } = WebAssembly.Memory.prototype;
  WebAssembly.Memory.prototype.grow = function limited(this: WebAssembly.Memory, pages: number): number {
    if (this.buffer.byteLength + pages * PAGE > MOST_MEMORY) throw new RangeError('an engine wants too much memory');
    return grow.call(this, pages);
  };
}
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

let shapesCode: Promise<WebAssembly.Module> | undefined;

/** A new one for each model, of code that is made ready once. */
async function loadShapes(): Promise<ShapeEngine> {
  const require = createRequire(import.meta.url);
  // It comes without types, in the older kind of module.
  const load = require('occt-import-js') as (options: object) => Promise<ShapeEngine>;
  shapesCode ??= readFile(require.resolve('occt-import-js/dist/occt-import-js.wasm')).then((bytes) =>
    WebAssembly.compile(bytes),
  );
  const code = await shapesCode;
  return load({
    ...silent,
    instantiateWasm(imports: WebAssembly.Imports, done: (instance: WebAssembly.Instance) => void) {
      void WebAssembly.instantiate(code, imports).then(done);
      return {};
    },
  });
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
