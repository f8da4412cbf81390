import { PDFDocument, rgb, StandardFonts } from 'pdf-lib';
import sharp from 'sharp';
import { assemble } from '../causes/assemble.ts';
import { drawing } from '../kinds/drawing/kind.ts';
import { open } from '../kinds/content.ts';
import { comparedFiles, sentences as causes } from '../testing.ts';
import { compareWords, type Line } from '../kinds/picture/drawn/words.ts';

interface Sheet {
  readonly words: string;
  /** Left edge of the shelter. */
  readonly shelter: number;
}

const was: Sheet = { words: 'Eight bolts M16', shelter: 250 };
const posts = [40, 75, 128, 190, 228, 300, 352];
const beams = [
  [30, 60, 370, 60],
  [30, 96, 300, 96],
  [60, 60, 60, 240],
  [204, 96, 204, 200],
] as const;

/** 400 × 300 units. */
const asSvg = ({ words, shelter }: Sheet): Uint8Array =>
  new TextEncoder()
    .encode(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 400 300" width="400mm" height="300mm"><rect width="400" height="300" fill="#ffffff"/>
  ${posts.map((x, k) => `<rect x="${x}" y="${110 + 17 * (k % 4)}" width="18" height="${30 + 9 * k}" fill="#8aa0ad" stroke="#17212b" stroke-width="1.2"/>`).join('')}
  ${beams.map(([x1, y1, x2, y2]) => `<line x1="${x1}" y1="${y1}" x2="${x2}" y2="${y2}" stroke="#17212b" stroke-width="1.2"/>`).join('')}
  <rect x="${shelter}" y="225" width="70" height="40" fill="none" stroke="#6b2d5c" stroke-width="2"/>
  <text x="40" y="40" font-family="sans-serif" font-size="14">Gangway, elevation</text><text x="40" y="285" font-family="sans-serif" font-size="10">${words}</text></svg>`);

/** The same on a page of 800 × 600 points, half a margin of 40 around. */
async function asPdf({ words, shelter }: Sheet, pagesBefore = 0): Promise<Uint8Array> {
  const document = await PDFDocument.create();
  const font = await document.embedFont(StandardFonts.Helvetica);
  const ink = rgb(0.09, 0.13, 0.17);
  const s = 1.8;
  const X = (x: number): number => 40 + s * x;
  const Y = (y: number): number => 570 - s * y;
  for (let k = 0; k < pagesBefore; k++) {
    const page = document.addPage([800, 600]);
    page.drawText(`Sheet ${k + 1} of other things entirely`, { x: 90, y: 300 + 60 * k, size: 26, font });
    page.drawCircle({ x: 420, y: 120, size: 60, borderColor: ink, borderWidth: 2 });
  }
  const page = document.addPage([800, 600]);
  posts.forEach((x, k) =>
    page.drawRectangle({
      x: X(x),
      y: Y(110 + 17 * (k % 4) + 30 + 9 * k),
      width: 18 * s,
      height: (30 + 9 * k) * s,
      color: rgb(0x8a / 255, 0xa0 / 255, 0xad / 255),
      borderColor: ink,
      borderWidth: 1.2 * s,
    }),
  );
  for (const [x1, y1, x2, y2] of beams)
    page.drawLine({ start: { x: X(x1), y: Y(y1) }, end: { x: X(x2), y: Y(y2) }, thickness: 1.2 * s, color: ink });
  page.drawRectangle({
    x: X(shelter),
    y: Y(265),
    width: 70 * s,
    height: 40 * s,
    borderColor: rgb(0x6b / 255, 0x2d / 255, 0x5c / 255),
    borderWidth: 2 * s,
  });
  page.drawText('Gangway, elevation', { x: X(40), y: Y(40), size: 14 * s, font });
  page.drawText(words, { x: X(40), y: Y(285), size: 10 * s, font });
  return document.save();
}

test('a print of the drawing as it is, among other pages: nothing, whatever the scale and the fonts, and the level is said', async () => {
  const found = await comparedFiles(['a.svg', asSvg(was)], ['set.pdf', await asPdf(was, 2)]);
  expect(causes(found)).toEqual([]);
  expect(found.comparison.level).toBe('pixels');
  expect(found.comparison.notes[0]).toMatch(
    /^Compared as drawn, by pixels and by words: the SVG drawing is laid over Page 3 of the PDF document, scaled to 9\d(\.\d)? %\.$/,
  );
  expect(found.outlines.drawn).toEqual({ a: 0, b: 2 });
});

test('a print of an older state: words by words, lines by where they are', async () => {
  const found = await comparedFiles(
    ['a.pdf', await asPdf(was)],
    ['b.svg', asSvg({ words: 'Eight bolts M20', shelter: 280 })],
  );
  expect(causes(found)).toContain('Text “Eight bolts M16” now “Eight bolts M20”');
  const places = found.comparison.changes.filter((c) => c.part.kind === 'place');
  expect(places.length).toBeGreaterThan(0);
  // All of them are at the shelter, which went from 250 to 280 of 400.
  for (const { boxB, boxA } of places) {
    const [x0, y0, x1, y1] = boxB ?? boxA!;
    if (!boxB) continue;
    expect([x0 > 1200, x1 < 1790, y0 > 1080, y1 < 1360]).toEqual([true, true, true, true]);
  }
});

test('a scan of the sheet, a little turned, soft and not quite white, shows nothing; one of another state does', async () => {
  const sheet = ['a.pdf', await asPdf(was, 1)] as const;
  const content = await open(sheet[1], sheet[0]);
  const drawn = await drawing.picture!({ content, model: content.design! }, 1, 1500);
  const scan = new Uint8Array(
    await sharp(drawn.data, { raw: { width: drawn.width, height: drawn.height, channels: 4 } })
      .rotate(0.7, { background: '#f4f2ec' })
      .modulate({ brightness: 0.97 })
      .blur(0.6)
      .jpeg({ quality: 82 })
      .toBuffer(),
  );
  const found = await comparedFiles(['scan.jpg', scan], sheet);
  expect(found.outlines.drawn).toEqual({ a: 0, b: 1 });
  expect(found.comparison.notes[0]).toMatch(
    /^Compared as drawn, by pixels: the JPEG picture is laid over Page 2 of the PDF document, .*turned by −0\.7/,
  );
  expect(causes(found)).toEqual([]);
  const other = await comparedFiles(['scan.jpg', scan], ['b.pdf', await asPdf({ ...was, shelter: 285 })]);
  expect(other.comparison.changes.length).toBeGreaterThan(0);
}, 60_000);

describe('words, wherever lines are broken', () => {
  const line = (words: string, y = 0): Line => ({ words, box: [0, y, 100, y + 10] });
  const said = (a: Line[], b: Line[]): string[] =>
    assemble({ ...compareWords(a, a, b, 'Page 1', 80), unchanged: 0, notes: [] }).causes.map((c) => c.sentence);

  test('the same words in other lines are the same', () =>
    expect(
      said(
        [line('All steel galvanised'), line('after fabrication', 12)],
        [line('All steel'), line('galvanised after fabrication', 12)],
      ),
    ).toEqual([]));

  test('a word more, a word less, a number changed', () => {
    expect(said([line('Bolts M16', 0)], [line('Bolts M20', 2)])).toEqual(['Text “Bolts M16” now “Bolts M20”']);
    expect(said([line('Bolts M16'), line('Handrail', 40)], [line('Bolts M16')])).toEqual([
      'Words only in A: “Handrail”',
    ]);
    expect(said([line('Bolts M16')], [line('Bolts M16'), line('Handrail', 40)])).toEqual([
      'Words only in B: “Handrail”',
    ]);
  });

  test('a word that is there twice and then once is missed', () =>
    expect(said([line('Pile 3'), line('Pile 3', 300)], [line('Pile 3')])).toEqual(['Words only in A: “Pile 3”']));
});
