/** A set of plotted sheets as a PDF document, in three issues. */
import { degrees, PDFDocument, rgb, StandardFonts, type PDFFont, type PDFPage } from 'pdf-lib';

export interface Issue {
  readonly revision: string;
  readonly date: string;
  readonly sheets: readonly string[];
  /** Posts of the gangway, apart in points. */
  readonly bay: number;
  readonly note: string;
  /** A sheet that kept the revision of the issue before, though it changed: an oversight. */
  readonly kept?: { readonly title: string; readonly revision: string };
}

const first = [
  'Landing, plan',
  'Deck framing',
  'Gangway, elevation',
  'Gangway, hinge',
  'Shelter, plan',
  'Shelter, section',
  'Signs',
  'Steel schedule',
  'Timber schedule',
];

export const issues: readonly Issue[] = [
  { revision: 'P01', date: '2026-10-08', sheets: first, bay: 58, note: 'All steel galvanised after fabrication.' },
  {
    revision: 'P02',
    date: '2026-10-21',
    sheets: [...first.slice(0, 4), 'Gangway, landing plate', ...first.slice(4)].filter((s) => s !== 'Timber schedule'),
    bay: 64,
    note: 'All steel galvanised after fabrication.',
  },
  {
    revision: 'C01',
    date: '2026-11-04',
    sheets: [
      'Landing, plan',
      'Deck framing',
      'Signs',
      'Gangway, elevation',
      'Gangway, hinge',
      'Gangway, landing plate',
      'Shelter, plan',
      'Shelter, section',
      'Steel schedule',
    ],
    bay: 64,
    note: 'All steel galvanised after fabrication, then painted.',
    kept: { title: 'Gangway, hinge', revision: 'P02' },
  },
];

const ink = rgb(0.09, 0.13, 0.17);
const blue = rgb(0.12, 0.33, 0.44);
const red = rgb(0.55, 0.16, 0.2);
const A3 = [1190.55, 841.89] as const;

export async function plottedSheets(issue: Issue): Promise<Uint8Array> {
  const document = await PDFDocument.create({ updateMetadata: false });
  const plain = await document.embedFont(StandardFonts.Helvetica);
  const bold = await document.embedFont(StandardFonts.HelveticaBold);
  const made = new Date(`${issue.date}T12:00:00Z`);
  document.setTitle('Quillmere ferry landing, drawings');
  document.setCreator('Quillmere drawing office');
  document.setCreationDate(made);
  document.setModificationDate(made);
  issue.sheets.forEach((title, k) => {
    const page = document.addPage([...A3]);
    frame(page, plain, bold, issue, title, k);
    content(page, plain, title, issue);
  });
  return document.save({ useObjectStreams: false });
}

function frame(page: PDFPage, plain: PDFFont, bold: PDFFont, issue: Issue, title: string, index: number): void {
  page.drawRectangle({ x: 28, y: 28, width: A3[0] - 56, height: A3[1] - 56, borderColor: ink, borderWidth: 1.4 });
  page.drawRectangle({ x: 820, y: 28, width: A3[0] - 848, height: 130, borderColor: ink, borderWidth: 0.8 });
  const number = `QFL-${String(100 + first.indexOf(title) + 1).padStart(3, '0')}`;
  for (const [label, value, x, y] of [
    ['Title', title, 832, 112],
    ['Drawing number', first.includes(title) ? number : 'QFL-120', 832, 74],
    ['Revision', issue.kept?.title === title ? issue.kept.revision : issue.revision, 980, 74],
    ['Date', issue.date, 1060, 74],
    ['Scale', title.includes('schedule') ? 'none' : '1 : 50', 832, 40],
    ['Sheet', `${index + 1} of ${issue.sheets.length}`, 980, 40],
  ] as const) {
    page.drawText(label, { x, y: y + 16, size: 7, font: plain, color: ink });
    page.drawText(value, { x, y, size: label === 'Title' ? 16 : 12, font: bold, color: ink });
  }
}

function content(page: PDFPage, plain: PDFFont, title: string, issue: Issue): void {
  const seed = first.indexOf(title) + 1 || 12;
  if (title.includes('schedule')) {
    for (let row = 0; row < 14; row++) {
      page.drawLine({
        start: { x: 80, y: 720 - row * 34 },
        end: { x: 760, y: 720 - row * 34 },
        thickness: 0.5,
        color: ink,
      });
      page.drawText(`${title.startsWith('Steel') ? 'S' : 'T'}${row + 1}`, {
        x: 88,
        y: 728 - row * 34,
        size: 11,
        font: plain,
        color: ink,
      });
      page.drawText(`${80 + row * 20} × ${40 + row * 5}, ${2 + ((row * seed) % 9)} pieces`, {
        x: 160,
        y: 728 - row * 34,
        size: 11,
        font: plain,
        color: ink,
      });
    }
    return;
  }
  for (let k = 0; k < 9 + (seed % 4); k++) {
    const x = 110 + k * (title === 'Gangway, elevation' ? issue.bay : 52 + seed * 2);
    page.drawLine({ start: { x, y: 260 }, end: { x, y: 560 + seed * 6 }, thickness: 1.2, color: blue });
    page.drawCircle({ x, y: 250, size: 7 + (seed % 3), borderColor: red, borderWidth: 1 });
  }
  page.drawLine({
    start: { x: 100, y: 560 + seed * 6 },
    end: { x: 760, y: 560 + seed * 6 },
    thickness: 2.4,
    color: ink,
  });
  page.drawRectangle({
    x: 100,
    y: 300,
    width: 180 + seed * 24,
    height: 60 + seed * 4,
    borderColor: ink,
    borderWidth: 1,
    color: rgb(0.93, 0.94, 0.95),
  });
  page.drawText(`${title}: dimensions in millimetres`, { x: 110, y: 700, size: 13, font: plain, color: ink });
  page.drawText(issue.note, { x: 110, y: 180, size: 11, font: plain, color: ink });
  page.drawText('Check on site before making', {
    x: 90,
    y: 420,
    size: 9,
    font: plain,
    color: red,
    rotate: degrees(90),
  });
}

/** A page of lines, locked with a password. */
export async function lockedPages({
  lines,
  date,
  password,
}: {
  readonly lines: readonly string[];
  readonly date: string;
  readonly password: string;
}): Promise<Uint8Array> {
  const document = await PDFDocument.create({ updateMetadata: false });
  const plain = await document.embedFont(StandardFonts.Helvetica);
  const page = document.addPage([595.28, 841.89]);
  const made = new Date(`${date}T12:00:00Z`);
  document.setCreator('Quillmere drawing office');
  document.setCreationDate(made);
  document.setModificationDate(made);
  lines.forEach((line, k) =>
    page.drawText(line, { x: 70, y: 740 - k * 30, size: k ? 12 : 18, font: plain, color: ink }),
  );
  const { lockedPdf } = await import('@ovrel/core/node');
  return lockedPdf(await document.save({ useObjectStreams: false }), password);
}
