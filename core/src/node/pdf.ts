/** Loads the PDF engine from its package. */
import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { init } from '@embedpdf/pdfium';
import { hasPdfEngine, setPdfEngine } from '../formats/pdf/engine.ts';

let loading: Promise<void> | undefined;

/** Has to be awaited once before PDF documents are opened. */
export function preparePdf(): Promise<void> {
  return (loading ??= load());
}

/** True for bytes that need it. */
export const needsPdf = (bytes: Uint8Array): boolean =>
  !hasPdfEngine() && new TextDecoder('latin1').decode(bytes.subarray(0, 1024)).includes('%PDF-');

async function load(): Promise<void> {
  const file = createRequire(import.meta.url).resolve('@embedpdf/pdfium/pdfium.wasm');
  const bytes = await readFile(file);
  const engine = await init({ wasmBinary: bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) });
  engine.PDFiumExt_Init();
  setPdfEngine(engine);
}
