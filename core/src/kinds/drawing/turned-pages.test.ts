import { PDFDocument, StandardFonts, degrees } from 'pdf-lib';
import { compared, sentences } from '../../testing.ts';

/** A method statement of some sheets; each has its own words and a frame. */
async function sheets(turns: readonly number[], extra = ''): Promise<Uint8Array> {
  const document = await PDFDocument.create();
  const font = await document.embedFont(StandardFonts.Helvetica);
  turns.forEach((turn, k) => {
    const page = document.addPage([420, 300]);
    ['Gangway', 'Steel', 'Timber', 'Lifting', 'Tides'].forEach((word, line) =>
      page.drawText(`${word} of sheet ${k + 1}`, { x: 40 + 11 * line, y: 250 - 40 * line, size: 12, font }),
    );
    if (extra && k === 0) page.drawText(extra, { x: 200, y: 40, size: 12, font });
    page.drawRectangle({ x: 20, y: 20, width: 380, height: 260, borderWidth: 1 });
    page.setRotation(degrees(turn));
  });
  return document.save();
}

const found = async (a: Uint8Array, b: Uint8Array): Promise<string[]> => sentences(await compared(a, b, 'method.pdf'));

test.each([
  [[0, 90], 'Page “Page 2” turned by 90° to the right'],
  [[270, 0], 'Page “Page 1” turned by 90° to the left'],
  [[180, 180], '2 pages turned by 180°'],
])('pages turned by %s', async (turns, sentence) => {
  expect(await found(await sheets([0, 0]), await sheets(turns))).toEqual([sentence]);
});

test('what was put on a page that was turned is told beside', async () => {
  const said = await found(await sheets([0, 0]), await sheets([90, 0], 'Approved'));
  expect(said).toHaveLength(2);
  expect(said.join()).toMatch(/Approved.* added/);
  expect(said).toContain('Page “Page 1” turned by 90° to the right');
});

test('a page that was not turned is not', async () => {
  expect(await found(await sheets([0, 0]), await sheets([0, 0], 'Approved'))).toEqual([
    expect.stringContaining('“Approved” added'),
  ]);
});
