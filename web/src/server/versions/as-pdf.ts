/** A version as a PDF document, to be given to somebody who has no program for it: a sheet for each page. */
import { cardOf } from '@ovrel/core';
import { PDFDocument } from 'pdf-lib';
import { pageOf, seenPageOf } from '../facts/drawn.ts';
import { lookAt } from '../facts/look.ts';
import { Problem } from '../problem.ts';
import { readWhole } from '../store/reader.ts';
import type { VersionRow } from './rows.ts';

/** Sheets of one document. */
const MOST_SHEETS = 60;
/** Longer side of a sheet where nobody says how large it is: A3, in points. */
const SHEET = 1190.55;

/** Throws a Problem where nothing of it can be drawn. */
export async function asPdf(row: VersionRow): Promise<Uint8Array> {
  const card = cardOf(row.format);
  // A document is one already.
  if (card?.pieces === 'pages') return readWhole(row.content_id);
  const look = await lookAt(row);
  const document = await PDFDocument.create();
  document.setProducer('Ovrel');
  document.setCreationDate(row.made_at);
  const sheets = Math.min(MOST_SHEETS, Math.max(1, look.pages.length));
  for (let page = 0; page < sheets; page++) {
    const png = card?.kinds[0] === 'picture' ? await pageOf(row, page) : await seenPageOf(row, page);
    if (!png) continue;
    const picture = await document.embedPng(Uint8Array.from(png));
    const scale = SHEET / Math.max(picture.width, picture.height);
    const [width, height] = [picture.width * scale, picture.height * scale];
    document.addPage([width, height]).drawImage(picture, { x: 0, y: 0, width, height });
  }
  if (document.getPageCount() === 0)
    throw new Problem(415, 'no-picture', look.problem ?? 'Nothing of this version can be drawn.');
  return document.save();
}
