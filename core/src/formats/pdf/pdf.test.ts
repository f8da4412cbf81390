import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { PDFDocument, PDFHexString, PDFName, PDFOperator, degrees, rgb, StandardFonts, type PDFPage } from 'pdf-lib';
import sharp from 'sharp';
import type { Design } from '../../model/design.ts';
import { defaultLimits } from '../../model/limits.ts';
import { ReadError } from '../../model/problem.ts';
import { pageList } from '../../kinds/drawing/pages.ts';
import { pagesAsRead, type PagesSoFar } from '../../kinds/drawing/page-progress.ts';
import { open } from '../../kinds/content.ts';
import { compared, sentences } from '../../testing.ts';
import { pdf } from './card.ts';
import { drawPdfPage } from './draw.ts';
import { readPdf } from './read.ts';
import { lockPdf, unlockPdf } from './unlock.ts';

beforeAll(() => pdf.load());

const LOCKED = /locked with a password/;

type Draw = (
  page: ReturnType<PDFDocument['addPage']>,
  plain: Awaited<ReturnType<PDFDocument['embedFont']>>,
  document: PDFDocument,
) => void;

async function made(...pages: Draw[]): Promise<Uint8Array> {
  const document = await PDFDocument.create();
  const plain = await document.embedFont(StandardFonts.Helvetica);
  document.setCreator('drawing office');
  for (const draw of pages) draw(document.addPage([400, 300]), plain, document);
  return document.save();
}

const read = (bytes: Uint8Array): Design => readPdf(bytes, defaultLimits);
const said = async (a: Uint8Array, b: Uint8Array): Promise<string[]> => sentences(await compared(a, b, 'x.pdf'));
const near = (box: readonly number[] | undefined, want: readonly number[], digits = 1): void =>
  want.forEach((v, k) => expect(box?.[k]).toBeCloseTo(v, digits));

describe('reading', () => {
  test('pages with their size, program and version', async () => {
    const design = read(
      await made(
        (p) => p.drawLine({ start: { x: 0, y: 0 }, end: { x: 10, y: 10 } }),
        (p) => p.setSize(842, 595),
      ),
    );
    expect(design.pages.map((p) => [p.name, p.box])).toEqual([
      ['Page 1', [0, 0, 400, 300]],
      ['Page 2', [0, 0, 842, 595]],
    ]);
    expect(design.origin).toMatchObject({ units: 'pt', program: 'drawing office', formatVersion: '1.7' });
    expect(design.pages[0]?.unitMillimetres).toBeCloseTo(25.4 / 72, 6);
  });

  test('words as lines, in their font, size and colour, where they stand', async () => {
    const [part] = read(
      await made((p, font) => p.drawText('Ferry landing', { x: 50, y: 200, size: 20, font, color: rgb(1, 0, 0) })),
    ).parts;
    expect(part).toMatchObject({
      kind: 'text',
      name: '“Ferry landing”',
      props: { fill: '#ff0000', 'font-size': 20, 'font-family': 'Helvetica', 'font-weight': '400' },
    });
    expect(part!.box![0]).toBeGreaterThan(49);
    expect(part!.box![3]).toBeLessThan(300 - 190);
    expect(part!.box![1]).toBeGreaterThan(300 - 225);
  });

  test('words that were set letter by letter are one line; those of the next line are another', async () => {
    const { parts } = read(
      await made((p, font) => {
        let x = 40;
        for (const letter of 'Gangway') {
          p.drawText(letter, { x, y: 100, size: 12, font });
          x += font.widthOfTextAtSize(letter, 12);
        }
        p.drawText('hinge', { x: x + 4, y: 100, size: 12, font });
        p.drawText('Shelter', { x: 40, y: 80, size: 12, font });
      }),
    );
    expect(parts.map((p) => p.name)).toEqual(['“Gangway hinge”', '“Shelter”']);
  });

  test('shapes with their paint, turned words, and pages that are turned', async () => {
    const { parts } = read(
      await made((p, font) => {
        p.drawRectangle({
          x: 100,
          y: 50,
          width: 80,
          height: 40,
          color: rgb(0, 0, 1),
          borderColor: rgb(0, 1, 0),
          borderWidth: 2,
        });
        p.drawText('up', { x: 300, y: 100, size: 10, font, rotate: degrees(90) });
      }),
    );
    expect(parts[0]).toMatchObject({ kind: 'path', props: { fill: '#0000ff', stroke: '#00ff00', 'stroke-width': 2 } });
    near(parts[0]?.box, [100, 210, 180, 250]);
    expect(parts[1]!.box![3] - parts[1]!.box![1]).toBeGreaterThan(parts[1]!.box![2] - parts[1]!.box![0]);
    const turned = read(
      await made((p) => {
        p.drawRectangle({ x: 10, y: 20, width: 30, height: 5, color: rgb(0, 0, 0) });
        p.setRotation(degrees(90));
      }),
    );
    expect(turned.pages[0]?.box).toEqual([0, 0, 300, 400]);
    near(turned.parts[0]?.box, [20, 10, 25, 40]);
  });

  test('a page is drawn as it is read', async () => {
    const bytes = await made((p) => p.drawRectangle({ x: 100, y: 50, width: 80, height: 40, color: rgb(0, 0, 1) }));
    const { width, height, data } = drawPdfPage(bytes, 0, 400);
    const at = (x: number, y: number): number[] => [...data.slice(4 * (y * width + x), 4 * (y * width + x) + 3)];
    expect([width, height]).toEqual([400, 300]);
    expect([at(140, 230), at(140, 190), at(90, 230)]).toEqual([
      [0, 0, 255],
      [255, 255, 255],
      [255, 255, 255],
    ]);
    expect(() => drawPdfPage(bytes, 7, 400)).toThrow(ReadError);
  });
});

describe('bad input', () => {
  test('cut off, or no document at all: a sentence', async () => {
    const bytes = await made((p, font) => p.drawText('x', { font }));
    for (const bad of [bytes.subarray(0, 60), new TextEncoder().encode('%PDF-1.7\nnothing more')])
      expect(() => read(bad)).toThrow(/damaged: its list of pages cannot be found/);
    expect(await open(bytes.subarray(0, 60), 'x.pdf')).toMatchObject({
      kinds: ['bytes'],
      problem: { sentence: expect.stringContaining('damaged') },
    });
  });

  test('a damaged table of places is got over', async () => {
    const text = Buffer.from(await made((p, font) => p.drawText('Still here', { x: 20, y: 20, size: 12, font })))
      .toString('latin1')
      .replace(/startxref\n\d+/, 'startxref\n99999999');
    expect(read(Buffer.from(text, 'latin1')).parts.map((p) => p.name)).toEqual(['“Still here”']);
  });

  test('scripts and attached files are named, and stay where they are', async () => {
    const { notes } = read(
      await made((p, font, document) => {
        p.drawText('x', { font });
        document.addJavaScript('hello', 'app.alert("hello")');
      }),
    );
    expect(notes).toEqual([expect.stringMatching(/^The document carries 1 script\..*never runs/)]);
  });

  test('programs to be started, other files and addresses are named, and left alone', async () => {
    const { notes } = read(
      await made((p, font, document) => {
        p.drawText('x', { font });
        const link = (action: Record<string, unknown>): unknown =>
          document.context.register(
            document.context.obj({ Type: 'Annot', Subtype: 'Link', Rect: [0, 0, 50, 50], A: action } as never),
          );
        p.node.set(
          PDFName.of('Annots'),
          document.context.obj([
            link({ S: 'Launch', F: PDFHexString.fromText('calc.exe') }),
            link({ S: 'URI', URI: PDFHexString.fromText('https://tides.example') }),
            link({ S: 'URI', URI: PDFHexString.fromText('https://rates.example') }),
            link({ S: 'GoToR', F: PDFHexString.fromText('other.pdf') }),
          ] as never),
        );
      }),
    );
    expect(notes).toEqual([
      'The document carries 1 action that would start a program, 1 reference to another file and 2 links to addresses outside. Ovrel keeps that in the file; it never runs, follows or fetches any of it.',
    ]);
  });
});

describe('what changed', () => {
  const sheet =
    (title: string, revision: string, x = 100): Draw =>
    (p, font) => {
      p.drawText(title, { x: 40, y: 250, size: 18, font });
      p.drawText(`${title} notes, all dimensions in millimetres`, { x: 40, y: 220, size: 9, font });
      p.drawText(`Revision ${revision}`, { x: 300, y: 20, size: 9, font });
      p.drawRectangle({
        x,
        y: 60,
        width: 40 + title.length * 3,
        height: 70,
        borderWidth: 1,
        borderColor: rgb(0, 0, 0),
      });
    };

  test('a note on one sheet, and a frame that moved', async () => {
    const a = await made(sheet('Plan', 'P01'), sheet('Gangway', 'P01'));
    const b = await made(sheet('Plan', 'P01'), sheet('Gangway', 'P02', 130));
    expect(await said(a, b)).toEqual(
      expect.arrayContaining([
        'Text “Revision P01” now “Revision P02”',
        expect.stringMatching(/moved by \(30, 0\) pt/),
      ]),
    );
  });

  test('a sheet put in: one cause, and those after it are the same', async () => {
    const a = await made(sheet('Plan', 'P01'), sheet('Gangway', 'P01'), sheet('Signs', 'P01'));
    const b = await made(sheet('Plan', 'P01'), sheet('Details', 'P01'), sheet('Gangway', 'P01'), sheet('Signs', 'P01'));
    expect(await said(a, b)).toEqual(['Page “Page 2” added, with 4 parts']);
    expect(await said(b, a)).toEqual(['Page “Page 2 of A” removed, with 4 parts']);
  });

  test('a sheet that went elsewhere', async () => {
    const a = await made(sheet('Plan', 'P01'), sheet('Gangway', 'P01'), sheet('Signs', 'P01'));
    const b = await made(sheet('Signs', 'P01'), sheet('Plan', 'P01'), sheet('Gangway', 'P01'));
    expect(await said(a, b)).toEqual(['Page “Page 1” was page 3']);
  });
});

describe('layers (optional content)', () => {
  async function layered(hidden: readonly string[], x = 50): Promise<Uint8Array> {
    const document = await PDFDocument.create();
    const page = document.addPage([300, 200]);
    const { context } = document;
    const names = ['Dimensions', 'Möbel (lose)'];
    const groups = names.map((n) => context.register(context.obj({ Type: 'OCG', Name: PDFHexString.fromText(n) })));
    document.catalog.set(
      PDFName.of('OCProperties'),
      context.obj({
        OCGs: groups,
        D: { Order: groups, OFF: groups.filter((_, k) => hidden.includes(names[k] ?? '')) },
      }),
    );
    page.node.Resources()?.set(PDFName.of('Properties'), context.obj({ L0: groups[0]!, L1: groups[1]! }));
    const on = (layer: string, draw: (page: PDFPage) => void): void => {
      page.pushOperators(PDFOperator.of('BDC' as never, [PDFName.of('OC'), PDFName.of(layer)]));
      draw(page);
      page.pushOperators(PDFOperator.of('EMC' as never));
    };
    on('L0', (p) => {
      p.drawRectangle({ x, y: 50, width: 60, height: 30, color: rgb(1, 0, 0) });
      p.drawText('1200', { x: 60, y: 20, size: 12 });
    });
    on('L1', (p) => p.drawRectangle({ x: 150, y: 50, width: 60, height: 30, color: rgb(0, 0, 1) }));
    page.drawText('outside', { x: 10, y: 180, size: 12 });
    return document.save();
  }

  test('parts are on the layer that the document says, whatever letters it has', async () => {
    const { layers, parts } = read(await layered(['Möbel (lose)']));
    expect(layers?.map((l) => [l.name, l.props['off']])).toEqual([
      ['Dimensions', 'no'],
      ['Möbel (lose)', 'yes'],
    ]);
    expect(parts.map((p) => [p.kind, p.category, p.props['hidden'] ?? 'no'])).toEqual([
      ['path', 'Dimensions', 'no'],
      ['text', 'Dimensions', 'no'],
      ['path', 'Möbel (lose)', 'yes'],
      ['text', '', 'no'],
    ]);
  });

  test('hidden and shown again are causes', async () => {
    expect(await said(await layered([]), await layered(['Möbel (lose)']))).toEqual([
      'Layer “Möbel (lose)” hidden, 1 part',
    ]);
    expect(await said(await layered(['Möbel (lose)']), await layered([]))).toEqual([
      'Layer “Möbel (lose)” shown again, 1 part',
    ]);
  });
});

describe('pixels as a check', () => {
  const board = (mark: boolean): Promise<Buffer> =>
    sharp(
      Buffer.from(
        `<svg xmlns="http://www.w3.org/2000/svg" width="800" height="600"><rect width="800" height="600" fill="#fff"/>${[60, 150, 290, 330, 470, 640].map((x, k) => `<rect x="${x}" y="${90 + 50 * (k % 3)}" width="50" height="${110 + 30 * k}" fill="none" stroke="#222" stroke-width="4"/>`).join('')}${mark ? '<rect x="560" y="60" width="60" height="40" fill="#b02020"/>' : ''}</svg>`,
      ),
    )
      .jpeg({ quality: mark ? 72 : 90 })
      .toBuffer();
  async function scan(mark: boolean): Promise<Uint8Array> {
    const document = await PDFDocument.create();
    const page = document.addPage([400, 300]);
    page.drawImage(await document.embedJpg(await board(mark)), { x: 0, y: 0, width: 400, height: 300 });
    return document.save();
  }
  test('of a scanned sheet it is said where it changed, in its own coordinates', async () => {
    const { causes, changes } = (await compared(await scan(false), await scan(true), 'x.pdf')).comparison;
    expect(causes.map((c) => c.sentence)).toEqual([
      expect.stringMatching(/^Something added: \d+ × \d+ px of its scan at the upper right on “Page 1”$/),
    ]);
    near(changes[0]?.boxB ?? undefined, [280, 30, 310, 50], -1);
  });

  test('a scan that was only compressed anew is the same', async () => {
    const document = await PDFDocument.create();
    const page = document.addPage([400, 300]);
    page.drawImage(
      await document.embedJpg(
        await sharp(await board(false))
          .jpeg({ quality: 60 })
          .toBuffer(),
      ),
      { x: 0, y: 0, width: 400, height: 300 },
    );
    expect(await said(await scan(false), await document.save())).toEqual([
      '“Page 1” scanned anew; nothing on it changed',
    ]);
  });
});

describe('locked documents', () => {
  test('are not read without the password, and are with it', async () => {
    const bytes = lockPdf(
      await made((p, font) => p.drawText('Piling rates', { x: 40, y: 100, size: 12, font })),
      'Thornholm',
    );
    expect(() => read(bytes)).toThrow(LOCKED);
    expect(unlockPdf(bytes, 'thornholm')).toBeUndefined();
    expect(read(unlockPdf(bytes, 'Thornholm')!).parts.map((p) => p.name)).toEqual(['“Piling rates”']);
    // The file itself stays locked.
    expect(() => read(bytes)).toThrow(LOCKED);
  });
});

describe('two documents read side by side', () => {
  const sheet =
    (text: string): Draw =>
    (p, font) =>
      p.drawText(text, { x: 40, y: 100, size: 12, font });

  test('after every page it is known which are the same, and the last word is that of the list', async () => {
    const a = await made(sheet('Plan'), sheet('Gangway'), sheet('Signs'));
    const b = await made(sheet('Plan'), sheet('Gangway, widened'), sheet('Signs'), sheet('Lights'));
    const told: PagesSoFar[] = [];
    const pages = await pagesAsRead(a, b, (soFar) => told.push(soFar()));
    expect(told.map((t) => t.read)).toEqual([1, 2, 3, 4, 5, 6, 7]);
    expect(told[0]).toMatchObject({ all: 3, pages: [] });
    expect(told[1]!.pages.map((p) => p.state)).toEqual(['same', 'unread', 'unread', 'unread']);
    expect(told[3]!.pages.map((p) => p.state)).toEqual(['same', 'changed', 'unread', 'unread']);
    expect(told[6]!).toMatchObject({
      all: 7,
      pages: [{ name: 'Page 1', state: 'same' }, { state: 'changed' }, { state: 'same' }, { state: 'unread' }],
    });
    expect(pages?.map((p) => p.state)).toEqual(['same', 'changed', 'same', 'added']);
    expect(pages).toEqual(pageList(read(a), read(b)));
  });

  test('a page that went elsewhere is the same as soon as it is read', async () => {
    const told: PagesSoFar[] = [];
    await pagesAsRead(await made(sheet('Plan'), sheet('Signs')), await made(sheet('Signs'), sheet('Plan')), (soFar) =>
      told.push(soFar()),
    );
    expect(told.at(-1)?.pages.map((p) => p.state)).toEqual(['same', 'same']);
  });

  test('a locked or damaged document is refused in a sentence, and the other one closed', async () => {
    const a = await made(sheet('Plan'));
    const locked = lockPdf(a, 'Thornholm');
    await expect(pagesAsRead(a, locked, () => undefined)).rejects.toThrow(LOCKED);
    await expect(pagesAsRead(Uint8Array.from(a.subarray(0, 200)), a, () => undefined)).rejects.toThrow(ReadError);
    // The engine is as usable as before.
    expect(read(a).pages).toHaveLength(1);
  });
});

describe('sizes of pages', () => {
  const sized = (...sizes: (readonly [number, number])[]): Promise<Uint8Array> =>
    made(
      ...sizes.map(([w, h], k): Draw => (p, font) => {
        p.setSize(w, h);
        p.drawText(`Sheet ${k}`, { x: 40, y: 40, size: 12, font });
      }),
    );
  test('one that grew, and several that grew alike', async () => {
    expect((await said(await sized([842, 595]), await sized([1191, 842])))[0]).toBe(
      'Page “Page 1”: 297 × 210 → 420 × 297 mm',
    );
    expect((await said(await sized([842, 595], [842, 595]), await sized([1191, 842], [1191, 842])))[0]).toBe(
      '2 pages: 297 × 210 → 420 × 297 mm',
    );
  });
});

describe('flowing text', () => {
  const lines = [
    'The gangway is lifted by a mobile crane.',
    'Nobody stands below the load.',
    'Bolts are tightened in two steps.',
    'Work stops above wind force six.',
  ];
  const table = ['Item', 'Pile', 'Cap'];
  const written = (list: readonly string[]): Promise<Uint8Array> =>
    made((p, font) => list.forEach((text, k) => p.drawText(text, { x: 40, y: 260 - 18 * k, size: 12, font })));

  test('a line put in pushes the rest along, the short words of a table, too', async () =>
    expect(
      await said(
        await written([...lines, ...table]),
        await written([lines[0]!, 'Life jackets are worn.', ...lines.slice(1), ...table]),
      ),
    ).toEqual(['6 texts moved together by (0, 18) pt', 'Text “Life jackets are worn.” added']));
  test('a sentence that was only reworded stays where it is', async () =>
    expect(
      await said(await written(lines), await written([lines[0]!, 'Nobody stands near the load.', ...lines.slice(2)])),
    ).toEqual(['Text “Nobody stands below the load.” now “Nobody stands near the load.”']));
});

test('a document that was cut off is compared as bytes, with the reason, and not line by line', async () => {
  const whole = await made((p, font) => p.drawText('Plan', { x: 40, y: 100, size: 12, font }));
  const cut = whole.subarray(0, 300);
  const { comparison } = await compared(whole, cut, 'x.pdf');
  expect(comparison.level).toBe('bytes');
  expect(comparison.notes).toEqual([
    expect.stringMatching(/^The newer file could not be read part by part\. The document /),
  ]);
});

test('a real document of twelve pages: one taken out, a note on another, and all else as it was', async () => {
  const real = (name: string): Uint8Array =>
    new Uint8Array(readFileSync(join(__dirname, '../../../../demo/real', name)));
  const [a, b] = [real('drawing-by-program.pdf'), real('drawing-by-program-2.pdf')];
  expect(await said(a, b)).toEqual([
    expect.stringMatching(/^Page “Page 5 of A” removed, with \d+ parts$/),
    '1 text and 1 path added',
  ]);
  expect(pageList(read(a), read(b)).map((p) => p.state)).toEqual([
    ...Array<string>(5).fill('same'),
    'changed',
    ...Array<string>(5).fill('same'),
    'removed',
  ]);
});
