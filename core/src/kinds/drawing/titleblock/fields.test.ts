import { DxfWriter } from '../../../formats/dxf/write.ts';
import { compared as comparing, designOf } from '../../../testing.ts';
import { titleBlocks, type TitleBlock } from './fields.ts';

const svg = (inner: string): Uint8Array =>
  new TextEncoder().encode(
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 420 297" width="420mm" height="297mm">${inner}</svg>`,
  );
const text = (x: number, y: number, size: number, words: string): string =>
  `<text x="${x}" y="${y}" font-size="${size}" font-family="sans-serif">${words}</text>`;
const read = (inner: string): TitleBlock | undefined => titleBlocks(designOf(svg(inner), 'a.svg'))[0];

/** Labels above their values, as most title blocks have them. */
const block = (revision: string, number = 'QFL-101'): string =>
  [
    ['Title', 'Gangway, hinge', 300, 250],
    ['Drawing number', number, 300, 268],
    ['Rev.', revision, 350, 268],
    ['Date of issue', '2026-10-21', 370, 268],
    ['Scale', '1 : 10', 300, 285],
    ['Sheet', '4 of 9', 350, 285],
  ]
    .map(
      ([label, value, x, y]) =>
        text(Number(x), Number(y), 2.5, String(label)) + text(Number(x), Number(y) + 6, 5, String(value)),
    )
    .join('');

test('labels above their values', async () =>
  expect(read(block('P02'))).toEqual({
    title: 'Gangway, hinge',
    number: 'QFL-101',
    revision: 'P02',
    date: '2026-10-21',
    scale: '1 : 10',
    sheet: '4 of 9',
  }));

test('labels before their values, on one line or in one text; other languages', async () => {
  expect(
    read(
      text(300, 250, 4, 'Drg No.') +
        text(322, 250, 4, 'S-204') +
        text(300, 258, 4, 'Revision: C') +
        text(300, 266, 4, 'Scale 1:50') +
        text(300, 274, 4, 'Drawn by: A. Dray'),
    ),
  ).toEqual({ number: 'S-204', revision: 'C', scale: '1:50', creator: 'A. Dray' });
  expect(
    read(
      text(300, 250, 3, 'Zeichnungsnummer') +
        text(300, 256, 5, 'Q-7') +
        text(340, 250, 3, 'Maßstab') +
        text(340, 256, 5, '1:20') +
        text(370, 250, 3, 'Änderungsindex') +
        text(370, 256, 5, 'b'),
    ),
  ).toEqual({ number: 'Q-7', scale: '1:20', revision: 'b' });
});

test('attributes of a placed title block, by their tags', async () => {
  const dxf = new DxfWriter()
    .block('A3', [0, 0], (b) => b.line([0, 0], [400, 0]))
    .line([0, 0], [400, 280])
    .placement('A3', [0, 0], {
      attributes: [
        ['TITLE', 'Deck framing'],
        ['DRAWING_NO', 'S-204'],
        ['REV', 'P02'],
        ['DATE', '2026-10-15'],
      ].map(([tag = '', words = ''], k) => ({ tag, at: [300, 40 - 8 * k] as [number, number], height: 4, words })),
    })
    .finish();
  expect(titleBlocks(designOf(dxf, 'a.dxf'))[0]).toEqual({
    title: 'Deck framing',
    number: 'S-204',
    revision: 'P02',
    date: '2026-10-15',
  });
});

test('headings of a table elsewhere on the sheet are no fields, nor is ordinary text', async () => {
  expect(
    read(
      block('P02') +
        text(20, 20, 4, 'Rev.') +
        text(20, 27, 4, 'A') +
        text(40, 20, 4, 'Date') +
        text(40, 27, 4, '2020-01-01'),
    ),
  ).toMatchObject({ revision: 'P02', date: '2026-10-21' });
  expect(
    read(text(40, 40, 5, 'Date tables are checked by the harbour office') + text(40, 60, 5, 'Scale model to follow')),
  ).toBeUndefined();
  expect(read(text(40, 40, 5, 'Date') + text(40, 48, 5, '2026-10-21'))).toBeUndefined();
});

describe('of two versions', () => {
  const compared = async (a: string, b: string) => (await comparing(svg(a), svg(b), 'a.svg')).comparison;
  const hinge = (x: number): string => `<rect x="${x}" y="60" width="80" height="40" fill="none" stroke="#000"/>`;

  test('a sheet that changed and says the same revision is named', async () => {
    const { titleBlocks: blocks, notes } = await compared(hinge(40) + block('B'), hinge(60) + block('B'));
    expect(blocks).toEqual([expect.objectContaining({ stale: true, b: expect.objectContaining({ revision: 'B' }) })]);
    expect(notes).toContain(
      'A sheet changed without a new revision: QFL-101 says revision B, and the version before said B too.',
    );
  });

  test('with a new revision, or without any change, nothing is said', async () => {
    const changed = await compared(hinge(40) + block('B'), hinge(60) + block('C'));
    expect(changed.titleBlocks?.[0]).toMatchObject({ stale: false, a: { revision: 'B' }, b: { revision: 'C' } });
    const same = await compared(hinge(40) + block('B'), hinge(40) + block('B'));
    expect([...changed.notes, ...same.notes]).toEqual([]);
  });
});
