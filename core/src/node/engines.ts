/** Lends the core what Node has: imported once by whatever runs the core on Node. */
import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { init, type WrappedPdfiumModule } from '@embedpdf/pdfium';
import { lendEngines } from '../model/engines.ts';

lendEngines({
  pdf: loadPdf,
  pictures: async () => {
    const { layeredFacts, lookAtPicture, openedLayered, openedPictures } = await import('./pictures.ts');
    const { openOra, openPsd } = await import('./layered.ts');
    return {
      facts: lookAtPicture,
      open: openedPictures,
      openOra,
      openPsd,
      openLayered: openedLayered,
      layeredFacts,
    };
  },
  drawings: async () => ({ draw: (await import('./drawings.ts')).drawSvg }),
});

async function loadPdf(): Promise<WrappedPdfiumModule> {
  const file = createRequire(import.meta.url).resolve('@embedpdf/pdfium/pdfium.wasm');
  const bytes = await readFile(file);
  const engine = await init({ wasmBinary: bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) });
  engine.PDFiumExt_Init();
  return engine;
}
