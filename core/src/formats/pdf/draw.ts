/** Draws a page of a PDF document as pixels. */
import type { Box } from '../../geometry/box.ts';
import type { Bitmap } from '../../raster/bitmap.ts';
import { ReadError } from '../../model/problem.ts';
import { heapsOf, OpenPdf } from './engine.ts';

const RGBA = 4;
const ANNOTATIONS = 1;
const REVERSED = 0x10;
const WHITE = 0xffffffff;

/**
 * `side` is the longer side in pixels, of the page or of a part of it (in points from its upper left corner). Throws
 * ReadError for pages that are not there.
 */
export function drawPdfPage(bytes: Uint8Array, index: number, side: number, part?: Box): Bitmap {
  const pdf = new OpenPdf(bytes);
  const { engine } = pdf;
  try {
    const page = engine.FPDF_LoadPage(pdf.handle, index);
    if (!page) throw new ReadError(`The document has no page ${index + 1} that can be drawn.`);
    const w = engine.FPDF_GetPageWidthF(page);
    const h = engine.FPDF_GetPageHeightF(page);
    const [x0, y0, x1, y1] = part ?? [0, 0, w, h];
    const scale = side / Math.max(x1 - x0, y1 - y0, 1);
    const width = Math.max(1, Math.round((x1 - x0) * scale));
    const height = Math.max(1, Math.round((y1 - y0) * scale));
    const bitmap = engine.FPDFBitmap_CreateEx(width, height, RGBA, 0, 0);
    engine.FPDFBitmap_FillRect(bitmap, 0, 0, width, height, WHITE);
    engine.FPDF_RenderPageBitmap(
      bitmap,
      page,
      Math.round(-x0 * scale),
      Math.round(-y0 * scale),
      Math.round(w * scale),
      Math.round(h * scale),
      0,
      ANNOTATIONS | REVERSED,
    );
    const at = engine.FPDFBitmap_GetBuffer(bitmap);
    const stride = engine.FPDFBitmap_GetStride(bitmap);
    const data = new Uint8Array(width * height * 4);
    const { HEAPU8 } = heapsOf(engine);
    for (let y = 0; y < height; y++)
      data.set(HEAPU8.subarray(at + y * stride, at + y * stride + 4 * width), 4 * y * width);
    engine.FPDFBitmap_Destroy(bitmap);
    engine.FPDF_ClosePage(page);
    return { width, height, data };
  } finally {
    pdf.close();
  }
}
