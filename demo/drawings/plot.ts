/** Plots a drawing onto a sheet as PDF, with a frame and title block of its own. */
import { degrees, PDFDocument, rgb, StandardFonts, type PDFFont, type PDFPage, type RGB } from 'pdf-lib';
import { open, type Design, type Part } from '@ovrel/core';

export interface Plot {
  readonly drawing: string;
  readonly title: string;
  readonly number: string;
  readonly revision: string;
  readonly date: string;
}

const A3 = [1190.55, 841.89] as const;
const MARGIN = 40;
const INK = rgb(0.09, 0.13, 0.17);

export async function plotted({ drawing, title, number, revision, date }: Plot): Promise<Uint8Array> {
  const document = await PDFDocument.create({ updateMetadata: false });
  const plain = await document.embedFont(StandardFonts.Helvetica);
  const bold = await document.embedFont(StandardFonts.HelveticaBold);
  const page = document.addPage([...A3]);
  const made = new Date(`${date}T12:00:00Z`);
  document.setCreator('Quillmere drawing office');
  document.setCreationDate(made);
  document.setModificationDate(made);
  const { design } = await open(new TextEncoder().encode(drawing), 'drawing.svg');
  const box = design?.pages[0]?.box;
  if (!design || !box) throw new Error('the demo drawing cannot be read');
  const scale = Math.min((A3[0] - 2 * MARGIN) / (box[2] - box[0]), (A3[1] - 2 * MARGIN - 70) / (box[3] - box[1]));
  const at = (x: number, y: number): readonly [number, number] => [
    MARGIN + (x - box[0]) * scale,
    A3[1] - MARGIN - (y - box[1]) * scale,
  ];
  for (const part of design.parts) drawPart(page, design, part, scale, at, { plain, bold });
  page.drawRectangle({ x: 24, y: 24, width: A3[0] - 48, height: A3[1] - 48, borderColor: INK, borderWidth: 1.2 });
  for (const [label, value, x] of [
    ['Title', title, 620],
    ['Drawing number', number, 860],
    ['Revision', revision, 960],
    ['Date', date, 1020],
    ['Scale', '1 : 100', 1110],
  ] as const) {
    page.drawText(label, { x, y: 58, size: 7, font: plain, color: INK });
    page.drawText(value, { x, y: 40, size: 11, font: bold, color: INK });
  }
  return document.save({ useObjectStreams: false });
}

function drawPart(
  page: PDFPage,
  { geometry }: Design,
  part: Part,
  scale: number,
  at: (x: number, y: number) => readonly [number, number],
  fonts: { plain: PDFFont; bold: PDFFont },
): void {
  const colour = (name: string): RGB | undefined => hex(part.props[name]);
  const width = (part.definition === undefined ? Number(part.props['stroke-width'] ?? 1) : 0.6) * scale;
  const path: string[] = [];
  for (let s = part.firstSubpath; s < part.firstSubpath + part.subpaths; s++) {
    for (let p = geometry.starts[s] ?? 0; p < (geometry.starts[s + 1] ?? 0); p++) {
      const [x, y] = at(geometry.points[2 * p] ?? 0, geometry.points[2 * p + 1] ?? 0);
      path.push(`${p === geometry.starts[s] ? 'M' : 'L'}${x.toFixed(2)} ${(A3[1] - y).toFixed(2)}`);
    }
    if (geometry.closed[s]) path.push('Z');
  }
  // Symbols are drawn by their outlines.
  const symbol = part.definition !== undefined;
  const fill = symbol ? rgb(1, 1, 1) : colour('fill');
  const stroke = symbol ? INK : colour('stroke');
  if (path.length && !part.lettering && (fill ?? stroke))
    page.drawSvgPath(path.join(''), {
      x: 0,
      y: A3[1],
      ...(fill ? { color: fill } : {}),
      ...(stroke ? { borderColor: stroke, borderWidth: width } : {}),
    });
  for (const run of part.lettering?.runs ?? []) {
    const t = part.transform;
    const [x, y] = at(t[0] * run.x + t[2] * run.y + t[4], t[1] * run.x + t[3] * run.y + t[5]);
    const size = (part.lettering?.size ?? 10) * Math.hypot(t[0], t[1]) * scale;
    const font = Number(part.lettering?.weight) >= 600 ? fonts.bold : fonts.plain;
    const shift = { start: 0, middle: 0.5, end: 1 }[part.lettering?.anchor ?? 'start'];
    const turn = -Math.atan2(t[1], t[0]);
    const back = shift * font.widthOfTextAtSize(encodable(run.text), size);
    page.drawText(encodable(run.text), {
      x: x - back * Math.cos(turn),
      y: y - back * Math.sin(turn),
      size,
      font,
      color: fill ?? INK,
      rotate: degrees((turn * 180) / Math.PI),
    });
  }
}

/** What the standard fonts of PDF have. */
const encodable = (text: string): string => text.replace(/[^\x20-\x7e\xa0-\xff–—‘’“”•…]/g, '?');

function hex(value: string | number | boolean | undefined): RGB | undefined {
  const found = /^#([\da-f]{2})([\da-f]{2})([\da-f]{2})/i.exec(String(value ?? ''));
  return found
    ? rgb(parseInt(found[1] ?? '0', 16) / 255, parseInt(found[2] ?? '0', 16) / 255, parseInt(found[3] ?? '0', 16) / 255)
    : undefined;
}
