import { lockedPdf, makeOra, type NewLayer } from '@ovrel/core/node';
import { layeredOf } from '../../../../core/src/testing.ts';
import { PDFDocument, StandardFonts } from 'pdf-lib';
import sharp from 'sharp';
import type { Person, Version } from '../../contract/api.ts';
import { db, many } from '../db/pool.ts';
import { makeProject } from '../projects/service.ts';
import { incoming, makeTestPerson, withTestDatabase } from '../testing/database.ts';
import { checkIn, makeFile } from './checkin.ts';
import { changedPages } from './comparisons.ts';
import { compareVersions } from './comparisons.ts';
import { lookAt } from '../facts/look.ts';
import { thumbnailOf } from '../facts/thumbnail.ts';
import { versionRow } from './rows.ts';
import { listVersions } from './service.ts';
import { unlockedComparison, unlockedLook, unlockedPage } from './unlocked.ts';
import { viewOf } from './view.ts';

withTestDatabase();
jest.setTimeout(120_000);

let marit: Person;
let jory: Person;
beforeAll(async () => {
  [marit, jory] = [await makeTestPerson('lead', 'Marit'), await makeTestPerson('editor', 'Jory')];
});

async function history(name: string, ...contents: Uint8Array[]): Promise<Version[]> {
  const [first, ...later] = contents as [Uint8Array, ...Uint8Array[]];
  const { file } = await makeFile(
    marit,
    (await makeProject(marit, `Pictures ${Math.random()}`)).id,
    null,
    undefined,
    incoming(name, first),
    { note: '' },
  );
  for (const bytes of later) await checkIn(marit, file.id, incoming(name, bytes), { note: '' });
  return listVersions(marit, file.id);
}

const idOf = (v: Version | undefined): string => v?.id ?? '';
const sizeOf = (png: Uint8Array): [number, number] => [
  Buffer.from(png).readUInt32BE(16),
  Buffer.from(png).readUInt32BE(20),
];
const bytesOf = async (answer: Response): Promise<Buffer> => Buffer.from(await answer.arrayBuffer());

async function document(...pages: string[][]): Promise<Uint8Array> {
  const made = await PDFDocument.create();
  const font = await made.embedFont(StandardFonts.Helvetica);
  for (const lines of pages) {
    const page = made.addPage([400, 200]);
    lines.forEach((line, k) => page.drawText(line, { x: 30, y: 160 - 24 * k, size: 12, font }));
  }
  return made.save();
}

describe('documents that are locked', () => {
  const rates = (rate: number): Promise<Uint8Array> =>
    document(['Piling rates', `Steel pile: ${rate} a metre`]).then((bytes) => lockedPdf(bytes, 'Thornholm'));

  test('say so, and open for one answer at a time; nothing of it is kept', async () => {
    const [v1, v2] = await history('rates.pdf', await rates(310), await rates(295));
    const [a, b] = [idOf(v1), idOf(v2)];
    expect(await lookAt(await versionRow(a))).toMatchObject({ level: 'bytes', locked: true, parts: 0 });
    expect((await compareVersions(marit, a, b)).comparison).toMatchObject({
      level: 'bytes',
      a: { locked: true },
      b: { locked: true },
    });
    expect(await unlockedLook(marit, a, 'Thornholm')).toMatchObject({
      level: 'parts',
      locked: false,
      kinds: { text: 2 },
    });
    expect(sizeOf(await bytesOf(await unlockedPage(marit, a, 'Thornholm', 0)))[0]).toBe(2800);
    const { comparison } = await unlockedComparison(marit, { a, b, passwordA: 'Thornholm', passwordB: 'Thornholm' });
    expect(comparison.causes.map((c) => c.sentence)).toEqual([
      'Text “Steel pile: 310 a metre” now “Steel pile: 295 a metre”',
    ]);
    // What is kept knows nothing of what was inside.
    for (const { value } of await many<{ value: Buffer }>(
      db(),
      'select value from fact union all select value from comparison',
    ))
      expect(value.includes('Steel pile')).toBe(false);
    expect(await lookAt(await versionRow(a))).toMatchObject({ locked: true, parts: 0 });
  });

  test('a wrong password, a document that is not locked, a page that is not there: each its sentence', async () => {
    const [locked] = await history('rates.pdf', await rates(310));
    const [open] = await history('open.pdf', await document(['Open']));
    await expect(unlockedLook(marit, idOf(locked), 'thornholm')).rejects.toThrow(
      /^This password does not open the document/,
    );
    await expect(unlockedLook(marit, idOf(open), 'Thornholm')).rejects.toMatchObject({
      status: 409,
      message: 'This version is not locked with a password.',
    });
    await expect(unlockedPage(marit, idOf(locked), 'Thornholm', 7)).rejects.toThrow(
      'The document has no page 8 that can be drawn.',
    );
  });

  test('after twenty wrong passwords there is a pause, for that person alone', async () => {
    const [locked] = await history('rates.pdf', await rates(310));
    for (let k = 0; k < 20; k++)
      await expect(unlockedLook(jory, idOf(locked), `guess ${k}`)).rejects.toMatchObject({ status: 422 });
    await expect(unlockedLook(jory, idOf(locked), 'Thornholm')).rejects.toMatchObject({ status: 429 });
    expect((await unlockedLook(marit, idOf(locked), 'Thornholm')).level).toBe('parts');
  });
});

describe('layered pictures', () => {
  const layers = async (colour: string, hidden = false): Promise<NewLayer[]> => {
    const png = async (background: string): Promise<Uint8Array> =>
      new Uint8Array(
        await sharp({ create: { width: 60, height: 40, channels: 4, background } })
          .png()
          .toBuffer(),
      );
    return [
      {
        name: 'sign',
        group: -1,
        hidden,
        opacity: 1,
        blend: 'normal',
        pixels: { png: await png(colour), x: 40, y: 30 },
      },
      {
        name: 'paper',
        group: -1,
        hidden: false,
        opacity: 1,
        blend: 'normal',
        pixels: {
          png: new Uint8Array(
            await sharp({ create: { width: 160, height: 120, channels: 4, background: '#f0ece2' } })
              .png()
              .toBuffer(),
          ),
          x: 0,
          y: 0,
        },
      },
    ];
  };

  test('are looked into, shown whole and layer by layer, and saved as OpenRaster', async () => {
    const [v1] = await history('board.ora', await makeOra(160, 120, 150, await layers('#204060')));
    const id = idOf(v1);
    const look = await lookAt(await versionRow(id));
    expect([look.level, look.formatTitle, look.layers.map((l) => [l.name, l.box])]).toEqual([
      'pixels',
      'layered picture (OpenRaster)',
      [
        ['sign', [40, 30, 100, 70]],
        ['paper', [0, 0, 160, 120]],
      ],
    ]);
    const pixel = async (query: Parameters<typeof viewOf>[3], x: number, y: number): Promise<number[]> => {
      const { data } = await sharp(await bytesOf(await viewOf(marit, id, null, query)))
        .ensureAlpha()
        .raw()
        .toBuffer({ resolveWithObject: true });
      return [...data.subarray(4 * (y * 160 + x), 4 * (y * 160 + x) + 4)];
    };
    expect([await pixel({ page: 0 }, 50, 40), await pixel({ page: 0 }, 5, 5)]).toEqual([
      [32, 64, 96, 255],
      [240, 236, 226, 255],
    ]);
    expect([await pixel({ page: 0, layer: 0 }, 50, 40), (await pixel({ page: 0, layer: 0 }, 5, 5))[3]]).toEqual([
      [32, 64, 96, 255],
      0,
    ]);
    await expect(viewOf(marit, id, null, { page: 0, layer: 9 })).rejects.toThrow(
      'This version has no layer 10 that can be shown.',
    );
    const saved = await viewOf(marit, id, null, { page: 0, as: 'ora' });
    expect(saved.headers.get('content-disposition')).toContain('board v1.ora');
    expect((await layeredOf(new Uint8Array(await bytesOf(saved)))).layers.map((l) => l.name)).toEqual([
      'sign',
      'paper',
    ]);
    expect(sizeOf((await thumbnailOf(await versionRow(id), 96))!)).toEqual([96, 72]);
  });

  test('a hidden layer is one cause, and lists both sides’ layers with their pairs', async () => {
    const [v1, v2] = await history(
      'board.ora',
      await makeOra(160, 120, 150, await layers('#204060')),
      await makeOra(160, 120, 150, await layers('#204060', true)),
    );
    const { comparison, picture } = await compareVersions(marit, idOf(v1), idOf(v2));
    expect(comparison.summary).toBe('Layer “sign” hidden');
    expect(picture.layers).toMatchObject({
      pairs: [0, 1],
      a: [{ name: 'sign', hidden: false }, {}],
      b: [{ name: 'sign', hidden: true }, {}],
    });
  });
});

describe('pages', () => {
  test('which of them changed is known by itself; other kinds of files have none', async () => {
    const [v1, v2] = await history(
      'set.pdf',
      await document(['Plan'], ['Gangway'], ['Signs']),
      await document(['Plan'], ['Gangway', 'Check on site'], ['Signs']),
    );
    const [one] = await history('note.txt', new TextEncoder().encode('one\n'));
    expect((await changedPages(marit, idOf(v1), idOf(v2)))?.map((p) => [p.name, p.state])).toEqual([
      ['Page 1', 'same'],
      ['Page 2', 'changed'],
      ['Page 3', 'same'],
    ]);
    expect(await changedPages(marit, idOf(v1), idOf(one))).toBeUndefined();
  });

  test('a part of a page is drawn as finely as is asked for', async () => {
    const [v1] = await history('set.pdf', await document(['Plan']));
    const part = await bytesOf(await viewOf(marit, idOf(v1), null, { page: 0, box: [20, 20, 120, 70], side: 1500 }));
    expect(sizeOf(part)).toEqual([1500, 750]);
    const { data, info } = await sharp(part).removeAlpha().raw().toBuffer({ resolveWithObject: true });
    // The word stands from 30 to 54 across and at about 28 to 40 down.
    const dark = (x: number, y: number): boolean =>
      Array.from(
        { length: 120 },
        (_, k) => data[3 * (Math.round(y * 15) * info.width + Math.round(x * 15) + k)] ?? 255,
      ).some((v) => v < 100);
    expect([dark(11, 15), dark(80, 40)]).toEqual([true, false]);
  });

  test('two kinds that can be drawn are compared as drawn, and each drawing can be had', async () => {
    const svg = new TextEncoder().encode(
      '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 400 200" width="400mm" height="200mm"><rect width="400" height="200" fill="#fff"/><rect x="40" y="60" width="90" height="50" fill="#335577"/><rect x="210" y="80" width="40" height="90" fill="#773333"/></svg>',
    );
    const [drawn] = await history('plan.svg', svg);
    const [shot] = await history(
      'plan.png',
      new Uint8Array(
        await sharp({ create: { width: 800, height: 400, channels: 3, background: '#ffffff' } })
          .composite([
            {
              input: await sharp({ create: { width: 180, height: 100, channels: 3, background: '#335577' } })
                .png()
                .toBuffer(),
              left: 80,
              top: 120,
            },
            {
              input: await sharp({ create: { width: 80, height: 180, channels: 3, background: '#773333' } })
                .png()
                .toBuffer(),
              left: 420,
              top: 160,
            },
          ])
          .png()
          .toBuffer(),
      ),
    );
    const { comparison, picture } = await compareVersions(marit, idOf(drawn), idOf(shot));
    expect([comparison.level, comparison.notes[0], comparison.changes]).toEqual([
      'pixels',
      expect.stringMatching(/^Compared as drawn, by pixels: the SVG drawing is laid over the PNG picture/),
      [],
    ]);
    expect(
      sizeOf(await bytesOf(await viewOf(marit, idOf(drawn), null, { page: picture.drawn!.a, drawn: 'yes' }))),
    ).toEqual(picture.laid!.sizeA);
  });
});
