/** Comparing PDF documents: against drawing them, and pairing the pages of large sets. */
import { PDFDocument, StandardFonts } from 'pdf-lib';
import { assemble, compareDesigns, compareFiles, open, type Compared } from '@ovrel/core';
import '@ovrel/core/node';
import { pdf } from '../core/src/formats/pdf/card.ts';
import { drawPdfPage } from '../core/src/formats/pdf/draw.ts';
import { paged, pageList, pairPages } from '../core/src/kinds/drawing/pages.ts';
import { issues, plottedSheets } from '../demo/drawings/sheets.ts';

const compared = async (a: Uint8Array, b: Uint8Array): Promise<Compared> =>
  compareFiles(await open(a, 'x.pdf'), await open(b, 'x.pdf'));

async function timed<T>(work: () => T | Promise<T>): Promise<{ ms: number; value: T }> {
  const start = performance.now();
  const value = await work();
  return { ms: performance.now() - start, value };
}

/** Middle of five. */
async function middle(work: () => unknown): Promise<number> {
  const all: number[] = [];
  for (let k = 0; k < 5; k++) all.push((await timed(work)).ms);
  return all.sort((p, q) => p - q)[2] ?? 0;
}

/** A sheet of a large set: lines and notes of its own, and a title block that most of them share. */
interface Sheet {
  readonly number: number;
  readonly revised: boolean;
}

async function set(sheets: readonly Sheet[]): Promise<Uint8Array> {
  const document = await PDFDocument.create();
  const font = await document.embedFont(StandardFonts.Helvetica);
  for (const { number, revised } of sheets) {
    const page = document.addPage([1190, 842]);
    for (let i = 0; i < 160; i++)
      page.drawLine({
        start: { x: 60 + ((i * 37 + number * 13) % 1000), y: 80 + ((i * 53 + number * 7) % 650) },
        end: { x: 90 + ((i * 41 + number * 29) % 1000), y: 90 + ((i * 31 + number * 3) % 650) },
        thickness: 0.7,
      });
    for (let i = 0; i < 30; i++)
      page.drawText(`Sheet ${number} note ${i}: ${(i * number * 7919) % 997}`, {
        x: 60 + (i % 3) * 300,
        y: 110 + Math.floor(i / 3) * 60,
        size: 9,
        font,
      });
    page.drawText(revised ? 'Revision B' : 'Revision A', { x: 1000, y: 40, size: 12, font });
    page.drawText('All dimensions in millimetres', { x: 800, y: 40, size: 9, font });
  }
  return document.save({ useObjectStreams: false });
}

export async function benchDocuments(): Promise<void> {
  await pdf.load();
  const one = async (k: number): Promise<Uint8Array> => {
    const issue = issues[k];
    if (!issue) throw new Error('the demo has no such issue');
    return plottedSheets({ ...issue, sheets: issue.sheets.slice(0, 1) });
  };
  const a = await one(0);
  const b = await one(1);
  const twice = await middle(() => [drawPdfPage(a, 0, 2800), drawPdfPage(b, 0, 2800)]);
  const first = await middle(() => compared(a, b));
  const same = await middle(() => compared(a, a));
  console.log(
    `one A3 sheet, ms: drawing both at 2800 px ${twice.toFixed(0)}; reading and comparing both ${first.toFixed(0)} (${(first / twice).toFixed(2)} ×); two that are the same, with their pixels ${same.toFixed(0)} (${(same / twice).toFixed(2)} ×)`,
  );
  // 300 sheets; in B ten were put in, five moved, three taken out, a tenth revised.
  const before = Array.from({ length: 300 }, (_, k): Sheet => ({ number: k, revised: false }));
  const after = before
    .filter((s) => ![20, 120, 220].includes(s.number))
    .map((s): Sheet => ({ ...s, revised: s.number % 10 === 0 }));
  for (const k of [250, 200, 150, 100, 50]) after.splice((k * 7) % 280, 0, ...after.splice(k, 1));
  for (let k = 0; k < 10; k++) after.splice(k * 29 + 5, 0, { number: 1000 + k, revised: false });
  const setA = await set(before);
  const setB = await set(after);
  const readA = await timed(async () => (await open(setA, 'a.pdf')).design);
  const readB = await timed(async () => (await open(setB, 'b.pdf')).design);
  if (!readA.value || !readB.value) throw new Error('the sets cannot be read');
  const [designA, designB] = [readA.value, readB.value];
  const paired = await timed(() => pairPages(designA, designB));
  const right = before.filter((s, i) => paired.value[i] === after.findIndex((t) => t.number === s.number)).length;
  const list = await timed(() => pageList(designA, designB));
  const whole = await timed(() =>
    Promise.all([open(setA, 'a.pdf'), open(setB, 'b.pdf')]).then(([a, b]) =>
      a.design && b.design ? assemble(compareDesigns(paged(a.design, b.design), b.design)) : undefined,
    ),
  );
  const all = await timed(() => compared(setA, setB));
  console.log(
    `300 sheets against 307, ms: reading ${readA.ms.toFixed(0)} and ${readB.ms.toFixed(0)}, pairing ${paired.ms.toFixed(0)}: ${right} of 300 right; list of pages after ${(readA.ms + readB.ms + list.ms).toFixed(0)}; reading and comparing by parts ${whole.ms.toFixed(0)}, with pixels of pages that look the same ${all.ms.toFixed(0)}`,
  );
}
