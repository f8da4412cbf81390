/** What another program saved anew and drew the same is no edit; an edit among it is found. */
import { clip, endPath, PDFDocument, popGraphicsState, pushGraphicsState, rectangle, StandardFonts } from 'pdf-lib';
import { compared, sentences } from '../testing.ts';

const encode = (text: string): Uint8Array => new TextEncoder().encode(text);
const svg = (content: string, head = 'viewBox="0 0 400 300" width="400" height="300"'): Uint8Array =>
  encode(`<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" ${head}>${content}</svg>`);

const found = async (a: Uint8Array, b: Uint8Array): Promise<string[]> => sentences(await compared(a, b, 'sign.svg'));

/** A wayfinding sign as somebody drew it. */
const drawn = `<defs><linearGradient id="dusk" x1="0" x2="0" y1="0" y2="1"><stop offset="0%" stop-color="white"/><stop offset="100%" style="stop-color:rgb(16,32,48);stop-opacity:0.5"/></linearGradient></defs>
<g id="board"><rect x="20" y="20" width="360" height="200" fill="url(#dusk)"/><g transform="translate(60 60) scale(2)"><path d="M0 0 H40 V20 H0 Z" fill="#8a2be2"/></g>
<circle cx="300" cy="120" r="40" fill="none" stroke="black" stroke-width="4"/></g>
<line x1="20" y1="250" x2="380" y2="250" stroke="#102030" stroke-width="2"/><line x1="20" y1="270" x2="380" y2="270" stroke="#102030" stroke-width="2"/>`;

/** The same by a program that drops ids and groups, makes paths of shapes, joins lines and rounds. */
const saved = (
  places: { readonly box?: number; readonly colour?: string } = {},
): string => `<defs><linearGradient id="a" x1="0" x2="0" y1="0" y2="1"><stop offset="0" stop-color="#fff"/><stop offset="1" stop-color="#102030" stop-opacity=".5"/></linearGradient></defs>
<path d="M20 20h360v200H20z" fill="url(#a)"/><path d="M${places.box ?? 60}.003 60h80v40h-80z" fill="${places.colour ?? '#8a2be2'}"/>
<path d="M340 120a40 40 0 1 1-80 0 40 40 0 1 1 80 0z" fill="none" stroke="#000" stroke-width="4"/><path d="M20 250h360M20 270h360" stroke="#102030" stroke-width="2"/>`;

test('one cause says that all was only written otherwise', async () => {
  const [sentence, ...others] = await found(svg(drawn), svg(saved()));
  expect(sentence).toMatch(/^Written otherwise, drawn the same: \d parts; no groups any more$/);
  expect(others).toEqual([]);
});

test.each([
  ['moved', { box: 75 }, /moved by \(15/],
  ['recoloured', { colour: '#2be28a' }, /#8a2be2 → #2be28a/],
])('a part that was %s at the same time comes first', async (_, places, expected) => {
  const [first, second] = await found(svg(drawn), svg(saved(places)));
  expect(first).toMatch(expected);
  expect(second).toMatch(/^Written otherwise, drawn the same/);
});

test('a line that is gone is not written otherwise', async () => {
  const said = await found(svg(drawn), svg(saved().replace('M20 270h360', '')));
  expect(said.join('; ')).toMatch(/removed|reshaped/);
});

test('numbers that were rounded are no move of the whole', async () => {
  const posts = Array.from({ length: 12 }, (_, k) => 20.1234 + 30.0417 * k);
  const written = (digits: number): string =>
    posts
      .map((x) => `<rect x="${x.toFixed(digits)}" y="40" width="${(12.3456).toFixed(digits)}" height="90"/>`)
      .join('');
  const said = await found(svg(written(4)), svg(written(1)));
  expect(said.filter((one) => !one.startsWith('Written otherwise'))).toEqual([]);
});

test('a page shown as large as before, in other units, is the same page', async () => {
  const inPoints = svg(drawn, 'viewBox="0 0 400 300" width="300pt" height="225pt"');
  expect(await found(inPoints, svg(drawn, 'viewBox="0 0 400 300" width="400px" height="300px"'))).toEqual([]);
});

test('what differs in no part but to the eye is told', async () => {
  const words = (mode: string): string =>
    `<text x="90" y="60" font-size="30" style="writing-mode:${mode}">Jetty</text>`;
  expect(await found(svg(words('lr')), svg(words('tb')))).toEqual([
    'Page “Drawing” looks different, though its words and shapes are the same',
  ]);
});

describe('what a program would not do is an edit', () => {
  const rails = (...ends: readonly (readonly [number, number])[]): Uint8Array =>
    svg(
      ends.map(([from, to]) => `<path d="M${from} 100H${to}M${from} 110H${to}" fill="none" stroke="#222"/>`).join('') +
        (ends.length > 1 ? '<path d="M20 150h40v40h-40z"/>' : '<rect x="20" y="150" width="40" height="40"/>'),
    );

  test('a gap that was cut', async () => {
    const said = await found(rails([20, 380]), rails([20, 180], [230, 380]));
    expect(said.join()).toContain('added');
    expect(said.at(-1)).toBe('Written otherwise, drawn the same: 1 part');
  });

  test('what is hidden and was reshaped', async () => {
    const hidden = (d: string): Uint8Array => svg(`<rect width="50" height="50"/><path display="none" d="${d}"/>`);
    const said = await found(hidden('M10 10h80v40z'), hidden('M10 10h80v40.2z'));
    expect(said.join()).toMatch(/reshaped|stretched/);
  });

  test('a part in a frame of another shape', async () => {
    const framed = (y: number): Uint8Array =>
      svg(
        `<rect x="0" y="0" width="9" height="9"/><path d="M10 ${y}h25v20h-25z" fill="#eee"/>`,
        'viewBox="0 0 100 100" width="400" height="100" preserveAspectRatio="xMinYMin"',
      );
    expect((await found(framed(40), framed(40.3))).join()).toMatch(/moved/);
  });
});

test('a program that writes every number in points says nothing of the parts', async () => {
  const posts = (scale: number): string =>
    Array.from(
      { length: 3 },
      (_, k) => `<rect x="${(20 + 90 * k) * scale}" y="${40 * scale}" width="${30 * scale}" height="${120 * scale}"/>`,
    ).join('');
  const inPixels = svg(posts(1), 'viewBox="0 0 400 300" width="400" height="300"');
  const inPoints = svg(posts(0.75), 'viewBox="0 0 300 225" width="300pt" height="225pt"');
  expect(await found(inPixels, inPoints)).toEqual(['Drawing units px → pt, with every number converted']);
  const onePost = (of: number): string => posts(of).slice(0, posts(of).indexOf('/>') + 2);
  const few = await found(
    svg(onePost(1), 'viewBox="0 0 400 300" width="400" height="300"'),
    svg(onePost(0.5), 'viewBox="0 0 200 150" width="400" height="300"'),
  );
  expect(few).toEqual(['Every number × 0.5, shown as large as before', 'Written otherwise, drawn the same: 1 part']);
});

test('drawings without a namespace are drawn, too', async () => {
  const bare = (bytes: Uint8Array): Uint8Array =>
    encode(new TextDecoder().decode(bytes).replace(' xmlns="http://www.w3.org/2000/svg"', ''));
  const [sentence, ...others] = await found(bare(svg(drawn)), bare(svg(saved())));
  expect(sentence).toMatch(/^Written otherwise, drawn the same/);
  expect(others).toEqual([]);
});

test('a small digit that is another one is an edit, on whatever many sheets', async () => {
  const sheets = async (revision: string): Promise<Uint8Array> => {
    const document = await PDFDocument.create();
    const font = await document.embedFont(StandardFonts.Helvetica);
    for (let k = 0; k < 4; k++) {
      const page = document.addPage([1190, 842]);
      for (let row = 0; row < 9; row++)
        page.drawText(`Row ${row} of ${k}`, { x: 60, y: 700 - 30 * row, size: 9, font });
      page.drawText(revision, { x: 1100, y: 30, size: 6, font });
    }
    return document.save();
  };
  const said = sentences(await compared(await sheets('P01'), await sheets('P02'), 'set.pdf'));
  expect(said).toEqual(['“P01” replaced by “P02” in 4 texts']);
});

test('of a page with an edit it is told where it looks different besides', async () => {
  const sheet = async (word: string, isCut: boolean): Promise<Uint8Array> => {
    const document = await PDFDocument.create();
    const font = await document.embedFont(StandardFonts.Helvetica);
    for (let k = 0; k < 30; k++) {
      const page = document.addPage([420, 300]);
      page.drawText(`Sheet ${k + 1}`, { x: 40, y: 270, size: 12, font });
      page.drawText(k === 29 ? word : 'Tides', { x: 40, y: 30, size: 12, font });
      const shown = isCut && k === 29 ? 30 : 420;
      page.pushOperators(pushGraphicsState(), rectangle(0, 0, shown, 300), clip(), endPath());
      page.drawRectangle({ x: 20, y: 100, width: 300, height: 100 });
      page.pushOperators(popGraphicsState());
    }
    return document.save();
  };
  const said = sentences(await compared(await sheet('Tides', false), await sheet('Ebb', true), 'set.pdf'));
  expect(said).toContain('Text “Tides” now “Ebb”');
  expect(said).toContain('Page “Page 30” looks different in 1 place where no part changed');
});
