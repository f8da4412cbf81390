/** A comparison as a PDF document: cover with counts and causes, then each cause with pictures of before and after. */
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import fontkit from '@pdf-lib/fontkit';
import { PDFDocument, rgb, type PDFFont, type PDFPage } from 'pdf-lib';
import type { Comparison } from '@ovrel/core';
import { levelCards } from '@ovrel/core/contract';
import { config } from '../config.ts';
import { runTask } from '../compute/pool.ts';
import type { CauseCrop } from '../compute/tasks/crops.ts';
import { unlessTooHeavy } from '../facts/fact.ts';
import { sourceOf } from '../facts/subject.ts';
import type { VersionRow } from '../versions/rows.ts';

/** Causes that get pictures; all are listed on the cover. */
const PICTURED = 8;
const A4 = [595.28, 841.89] as const;
const MARGIN = 48;
const INK = rgb(0.09, 0.13, 0.17);
const QUIET = rgb(0.36, 0.41, 0.46);
const HAIR = rgb(0.8, 0.83, 0.85);

interface Report {
  readonly comparison: Comparison;
  readonly a: VersionRow;
  readonly b: VersionRow;
  readonly file: string;
  readonly project: string;
}

const moment = new Intl.DateTimeFormat('en-GB', {
  day: 'numeric',
  month: 'short',
  year: 'numeric',
  hour: '2-digit',
  minute: '2-digit',
  timeZone: 'UTC',
});
const said = (at: Date): string => moment.format(at).replace('Sept', 'Sep');

export async function reportPdf(report: Report): Promise<Uint8Array> {
  const document = await PDFDocument.create();
  document.registerFontkit(fontkit);
  const fonts = join(/* turbopackIgnore: true */ config.root, 'node_modules', 'dejavu-fonts-ttf', 'ttf');
  const plain = await document.embedFont(await readFile(join(fonts, 'DejaVuSans.ttf')), { subset: true });
  const bold = await document.embedFont(await readFile(join(fonts, 'DejaVuSans-Bold.ttf')), { subset: true });
  document.setTitle(`${report.file}: v${report.a.number} to v${report.b.number}`);
  document.setProducer('Ovrel');
  document.setCreationDate(new Date());
  const writer = new Writer(document, plain, bold);
  cover(writer, report);
  await pictures(writer, document, report);
  writer.numberPages();
  return document.save();
}

function cover(w: Writer, { comparison, a, b, file, project }: Report): void {
  const { counts } = comparison;
  w.text(project, 10, QUIET);
  w.text(file, 22, INK, true);
  w.text(`What changed from v${a.number} to v${b.number}`, 14);
  w.gap(10);
  for (const [mark, v] of [
    ['A', a],
    ['B', b],
  ] as const) {
    w.text(`${mark}   v${v.number}, ${v.by_name}, ${said(v.made_at)}`, 10, INK, true);
    if (v.note) w.text(v.note, 10, QUIET);
    w.text(`SHA-256 ${v.hash.toString('hex')}`, 7, QUIET);
  }
  w.gap(8);
  w.text(
    `${n(counts.added)} only in B, ${n(counts.removed)} only in A, ${n(counts.changed)} changed, ${n(counts.moved)} moved, ${n(counts.unchanged)} unchanged. Compared ${levelCards[comparison.level].how}.`,
    10,
  );
  for (const note of comparison.notes) w.text(note, 9, QUIET);
  w.gap(10);
  w.text(comparison.causes.length ? 'Causes' : comparison.summary, 13, INK, true);
  comparison.causes.forEach((cause, i) =>
    w.text(
      `${i + 1}   ${cause.sentence}${cause.changes.length ? `  (${n(cause.changes.length)} ${cause.changes.length === 1 ? 'change' : 'changes'})` : ''}`,
      10,
    ),
  );
  w.gap(8);
  w.text(
    `Made ${said(new Date())} UTC. Engine ${comparison.engine}. Only in A: dashed amber. Only in B: teal.`,
    7,
    QUIET,
  );
}

/** What the heaviest causes touch, before and after; none where that took too long. */
async function cropsFor({ comparison, a, b }: Report): Promise<CauseCrop[]> {
  const { level, causes, changes } = comparison;
  if (level !== 'pixels' && level !== 'parts') return [];
  const known = level === 'pixels' ? { comparison: { causes, changes } } : {};
  const input = { a: sourceOf(a), b: sourceOf(b), most: PICTURED, ...known };
  return unlessTooHeavy(runTask('crops', input, { seconds: SECONDS }), () => []);
}

/** Base of the time that drawing all crops may take, in seconds. */
const SECONDS = 90;

async function pictures(w: Writer, document: PDFDocument, report: Report): Promise<void> {
  const { comparison } = report;
  const crops = await cropsFor(report);
  for (const [i, crop] of crops.entries()) {
    const cause = comparison.causes.find((c) => c.id === crop.cause);
    if (!cause || !(crop.a ?? crop.b)) continue;
    const height = 230;
    w.need(height + 40);
    w.text(`${comparison.causes.indexOf(cause) + 1}   ${cause.sentence}`, 11, INK, true);
    const width = (A4[0] - 2 * MARGIN - 12) / 2;
    const top = w.y;
    for (const [k, png] of [crop.a, crop.b].entries()) {
      const x = MARGIN + k * (width + 12);
      w.page.drawText(k ? 'B' : 'A', { x, y: top - 10, size: 8, font: w.bold, color: QUIET });
      w.page.drawRectangle({ x, y: top - height, width, height: height - 14, borderColor: HAIR, borderWidth: 0.5 });
      if (!png) {
        w.page.drawText('not on this page', {
          x: x + 8,
          y: top - height / 2,
          size: 8,
          font: w.plain,
          color: QUIET,
        });
        continue;
      }
      const image = await document.embedPng(png);
      const scale = Math.min((width - 6) / image.width, (height - 20) / image.height);
      w.page.drawImage(image, {
        x: x + (width - image.width * scale) / 2,
        y: top - height + (height - 14 - image.height * scale) / 2,
        width: image.width * scale,
        height: image.height * scale,
      });
    }
    w.y = top - height - 16;
    if (i === crops.length - 1 && comparison.causes.length > PICTURED)
      w.text(
        `Pictures of the ${PICTURED} heaviest causes are shown; all causes are on the first page, all changes in the table.`,
        8,
        QUIET,
      );
  }
}

const n = (value: number): string => value.toLocaleString('en');

/** Text from the top of a page downwards, on as many pages as it takes. */
class Writer {
  page: PDFPage;
  y = A4[1] - MARGIN;
  readonly plain: PDFFont;
  readonly bold: PDFFont;
  private readonly document: PDFDocument;

  constructor(document: PDFDocument, plain: PDFFont, bold: PDFFont) {
    this.document = document;
    this.plain = plain;
    this.bold = bold;
    this.page = document.addPage([...A4]);
  }

  /** A new page, if there is less room than this. */
  need(height: number): void {
    if (this.y - height > MARGIN) return;
    this.page = this.document.addPage([...A4]);
    this.y = A4[1] - MARGIN;
  }

  gap(height: number): void {
    this.y -= height;
  }

  text(words: string, size: number, color = INK, strong = false): void {
    const font = strong ? this.bold : this.plain;
    const width = A4[0] - 2 * MARGIN;
    for (const line of words.split('\n').flatMap((paragraph) => wrapped(paragraph, font, size, width))) {
      this.need(size * 1.5);
      this.y -= size * 1.4;
      this.page.drawText(line, { x: MARGIN, y: this.y, size, font, color });
    }
  }

  numberPages(): void {
    const pages = this.document.getPages();
    pages.forEach((page, i) =>
      page.drawText(`${i + 1} of ${pages.length}`, {
        x: A4[0] - MARGIN - 40,
        y: MARGIN / 2,
        size: 8,
        font: this.plain,
        color: QUIET,
      }),
    );
  }
}

function wrapped(text: string, font: PDFFont, size: number, width: number): string[] {
  const lines: string[] = [];
  let line = '';
  for (const word of text
    .replace(/[\0-\x1f]/g, ' ')
    .split(' ')
    .flatMap((w) => (font.widthOfTextAtSize(w, size) > width ? (w.match(/.{1,40}/gu) ?? []) : [w]))) {
    const longer = line ? `${line} ${word}` : word;
    if (line && font.widthOfTextAtSize(longer, size) > width) {
      lines.push(line);
      line = word;
    } else line = longer;
  }
  return [...lines, line];
}
