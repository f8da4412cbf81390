import { engine } from '../../model/engines.ts';
import type { Format } from '../../model/format.ts';
import { pdf } from './card.ts';
import { drawPdfPage } from './draw.ts';
import { setPdfEngine } from './engine.ts';
import { readingPdf, readPdf } from './read.ts';
import { unlockPdf } from './unlock.ts';

const format: Format = {
  card: pdf,
  read: { drawing: readPdf },
  draw: drawPdfPage,
  readPages: readingPdf,
  unlock: unlockPdf,
};

/** The format, once its engine is there; without one, what it reads fails with a sentence. */
export async function load(): Promise<Format> {
  setPdfEngine(await engine('pdf').catch(() => undefined));
  return format;
}
