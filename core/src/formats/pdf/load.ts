import { engine } from '../../model/engines.ts';
import type { Format } from '../../model/format.ts';
import { pdf } from './card.ts';
import { drawPdfPage } from './draw.ts';
import { setPdfEngine, visiting, visitingSteps } from './engine.ts';
import { readingPdf, readPdf } from './read.ts';
import { sourceOfPdf } from './source.ts';
import { unlockPdf } from './unlock.ts';
import { writtenInPdf } from './written.ts';

const format: Format = {
  card: pdf,
  read: { drawing: (bytes, limits) => visiting(() => readPdf(bytes, limits)) },
  source: { pages: sourceOfPdf },
  written: writtenInPdf,
  draw: (bytes, page, side, part) => visiting(() => drawPdfPage(bytes, page, side, part)),
  readPages: (bytes, limits) => visitingSteps(readingPdf(bytes, limits)),
  unlock: (bytes, password) => visiting(() => unlockPdf(bytes, password)),
};

/** The format, once its engine is there; without one, what it reads fails with a sentence. */
export async function load(): Promise<Format> {
  setPdfEngine(await engine('pdf').catch(() => undefined));
  return format;
}
