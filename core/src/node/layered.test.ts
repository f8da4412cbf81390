import { initializeCanvas, writePsdUint8Array, type Layer } from 'ag-psd';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import sharp from 'sharp';
import { detect } from '../index.ts';
import { readOra } from '../formats/ora/read.ts';
import { defaultLimits } from '../model/limits.ts';
import { ReadError } from '../model/problem.ts';
import { comparedFiles, layeredOf, pictureOf } from '../testing.ts';
import { asOra, makeOra, type NewLayer } from './layered.ts';
import { encodePng } from './pictures.ts';

const W = 96;
const H = 64;

/** Pixels of a layer: a rectangle with some grain, else nothing. */
function block(
  [x0, y0, x1, y1]: readonly [number, number, number, number],
  [r, g, b]: readonly [number, number, number],
  grain = 1,
): Uint8Array {
  const data = new Uint8Array(W * H * 4);
  for (let y = y0; y < y1; y++)
    for (let x = x0; x < x1; x++)
      data.set(
        [r, g, b, 255].map((v, k) =>
          k < 3 ? Math.max(0, Math.min(255, v + grain * ((((x - x0) * 37 + (y - y0) * 61) % 23) - 11))) : v,
        ),
        4 * (y * W + x),
      );
  return data;
}

const png = (data: Uint8Array): Promise<Uint8Array> => encodePng({ width: W, height: H, data });

interface Sheet {
  name: string;
  data?: Uint8Array;
  group?: number;
  hidden?: boolean;
  opacity?: number;
  blend?: string;
}

const paper: Sheet = { name: 'paper', data: block([0, 0, W, H], [240, 236, 226], 0) };
const pier: Sheet = { name: 'pier', data: block([10, 30, 60, 44], [96, 80, 62]) };
const lamp: Sheet = { name: 'lamp', data: block([70, 10, 78, 40], [200, 160, 40]) };
const words: Sheet = { name: 'words', data: block([8, 6, 50, 16], [20, 30, 40]) };

async function ora(...sheets: Sheet[]): Promise<Uint8Array> {
  const layers = await Promise.all(
    sheets.map(
      async ({ name, data, group = -1, hidden = false, opacity = 1, blend = 'normal' }): Promise<NewLayer> => ({
        name,
        group,
        hidden,
        opacity,
        blend,
        ...(data ? { pixels: { png: await png(data), x: 0, y: 0 } } : {}),
      }),
    ),
  );
  return makeOra(W, H, 150, layers);
}

const psdOf = (...children: Layer[]): Uint8Array => {
  initializeCanvas(
    () => {
      throw new Error('none');
    },
    (width, height) =>
      ({ width, height, data: new Uint8ClampedArray(4 * width * height), colorSpace: 'srgb' }) as unknown as ImageData,
  );
  return writePsdUint8Array(
    {
      width: W,
      height: H,
      children,
      imageData: { width: W, height: H, data: block([0, 0, W, H], [240, 236, 226], 0) },
    },
    { noBackground: true },
  );
};
const psdLayer = (name: string, data: Uint8Array, more: Partial<Layer> = {}): Layer => ({
  name,
  top: 0,
  left: 0,
  imageData: { width: W, height: H, data },
  ...more,
});

const input = (name: string, bytes: Uint8Array) => [name, bytes] as const;
async function said(a: Uint8Array, b: Uint8Array, name = 'poster.ora'): Promise<string[]> {
  const { comparison } = await comparedFiles(input(name, a), input(name, b));
  expect(comparison.level).toBe('pixels');
  return comparison.causes.map((c) => c.sentence);
}

describe('OpenRaster', () => {
  test('is known by its content, whatever its name', async () => expect(detect(await ora(paper))?.id).toBe('ora'));

  test('layers come back as they were written: order, groups, names, visibility, opacity, blending and place', async () => {
    const { layers, width, height, density } = await layeredOf(
      await ora(
        { name: 'above & “beyond”' },
        { ...words, group: 0, hidden: true },
        { ...lamp, opacity: 0.4, blend: 'multiply' },
        paper,
      ),
    );
    expect([width, height, density]).toEqual([W, H, 150]);
    expect(
      layers.map(({ name, kind, group, hidden, opacity, blend, box }) => [
        name,
        kind,
        group,
        hidden,
        opacity,
        blend,
        box,
      ]),
    ).toEqual([
      ['above & “beyond”', 'group', -1, false, 1, 'normal', undefined],
      ['words', 'layer', 0, true, 1, 'normal', [0, 0, W, H]],
      ['lamp', 'layer', -1, false, 0.4, 'multiply', [0, 0, W, H]],
      ['paper', 'layer', -1, false, 1, 'normal', [0, 0, W, H]],
    ]);
  });

  test('the whole is what the layers give together: hidden ones left out, multiplied ones darker', async () => {
    const at = async (bytes: Uint8Array, x: number, y: number): Promise<number[]> => {
      const { bitmap } = await pictureOf(bytes);
      const p = 4 * (y * W + x);
      return [...bitmap.data.slice(p, p + 4)];
    };
    const over: Sheet = { name: 'over', data: block([0, 0, W, H], [128, 128, 128], 0) };
    expect(await at(await ora(over, paper), 5, 5)).toEqual([128, 128, 128, 255]);
    expect(await at(await ora({ ...over, hidden: true }, paper), 5, 5)).toEqual([240, 236, 226, 255]);
    const multiplied = await at(await ora({ ...over, blend: 'multiply' }, paper), 5, 5);
    const faint = await at(await ora({ ...over, opacity: 0.5 }, paper), 5, 5);
    expect(Math.abs(multiplied[0]! - 120)).toBeLessThan(3);
    expect(Math.abs(faint[0]! - 184)).toBeLessThan(3);
  });

  test('the type comes first and is stored, and the same layers give the same bytes', async () => {
    const bytes = await ora(words, paper);
    expect(strFromU8(bytes.subarray(30, 54))).toBe('mimetypeimage/openraster');
    expect(Buffer.from(await ora(words, paper)).equals(bytes)).toBe(true);
    expect(Object.keys(unzipSync(bytes))).toEqual([
      'mimetype',
      'stack.xml',
      'data/layer000.png',
      'data/layer001.png',
      'mergedimage.png',
      'Thumbnails/thumbnail.png',
    ]);
  });

  test.each([
    ['without a list of layers', { 'a.txt': 'x' }, 'no list of layers'],
    ['with a list that is no list', { 'stack.xml': '<image w="5"/>' }, 'is damaged'],
    ['with a list that is no XML', { 'stack.xml': '<image w="5" h="5"><stack>' }, /./],
  ])('a container %s gives a sentence', (_, members, sentence) =>
    expect(() =>
      readOra(zipSync(Object.fromEntries(Object.entries(members).map(([k, v]) => [k, strToU8(v)]))), defaultLimits),
    ).toThrow(sentence),
  );

  test('cut off anywhere: a sentence, or less than there was, and never anything else', async () => {
    const bytes = await ora(words, paper);
    for (let n = 60; n < bytes.length; n += Math.ceil(bytes.length / 40)) {
      await pictureOf(bytes.subarray(0, n)).catch((error: unknown) => expect(error).toBeInstanceOf(ReadError));
    }
  });

  test('layers whose pixels are missing are named', async () => {
    const { 'data/layer000.png': _, ...rest } = unzipSync(await ora(words, paper));
    expect((await layeredOf(zipSync(rest))).notes).toEqual([expect.stringContaining('“words” are missing')]);
  });
});

describe('the published layered format of image editors', () => {
  const bytes = (): Uint8Array =>
    psdOf(psdLayer('paper', paper.data!), {
      name: 'lettering',
      children: [
        psdLayer('words', words.data!, { opacity: 0.5, blendMode: 'multiply' }),
        psdLayer('lamp', lamp.data!, { hidden: true }),
      ],
    });

  test('its layers are listed from the top, with what is particular of each', async () => {
    expect(detect(bytes())?.id).toBe('psd');
    const { layers } = await layeredOf(bytes());
    expect(
      layers.map(({ name, kind, group, hidden, opacity, blend }) => [
        name,
        kind,
        group,
        hidden,
        Math.round(opacity * 100),
        blend,
      ]),
    ).toEqual([
      ['lettering', 'group', -1, false, 100, 'through'],
      ['lamp', 'layer', 0, true, 100, 'normal'],
      ['words', 'layer', 0, false, 50, 'multiply'],
      ['paper', 'layer', -1, false, 100, 'normal'],
    ]);
  });

  test('a layer alone, and all of it', async () => {
    const opened = await layeredOf(bytes());
    const k = opened.layers.findIndex((l) => l.name === 'words');
    const { data, width } = await opened.pixels(k);
    const [left, top] = opened.layers[k]!.box!;
    const p = 4 * ((10 - top) * width + 20 - left);
    expect(data[p + 3]).toBe(255);
    expect(Math.abs(data[p]! - words.data![4 * (10 * W + 20)]!)).toBeLessThan(2);
    expect([...(await pictureOf(bytes())).bitmap.data.slice(0, 3)]).toEqual([240, 236, 226]);
  });

  test('becomes OpenRaster with the same layers', async () => {
    const made = await layeredOf(await asOra(await layeredOf(bytes())));
    expect(made.layers.map((l) => [l.name, l.group, l.hidden, l.blend])).toEqual([
      ['lettering', -1, false, 'normal'],
      ['lamp', 0, true, 'normal'],
      ['words', 0, false, 'multiply'],
      ['paper', -1, false, 'normal'],
    ]);
    expect(made.layers[2]!.opacity).toBeCloseTo(0.5, 1);
  });

  test('what was done to its layers is said as of any other', async () => {
    const b = psdOf(psdLayer('paper', paper.data!), psdLayer('lamp', lamp.data!));
    expect(
      await said(
        psdOf(psdLayer('paper', paper.data!), psdLayer('words', words.data!), psdLayer('lamp', lamp.data!)),
        b,
        'poster.psd',
      ),
    ).toEqual(['Layer “words” deleted']);
  });

  test('cut off or of a colour model that is not read: a sentence', async () => {
    for (const n of [30, 200, 900])
      await expect(layeredOf(bytes().subarray(0, n))).rejects.toThrow(
        /cannot be read: the file is damaged or ends too early/,
      );
    const lab = Uint8Array.from(bytes());
    lab[25] = 9;
    await expect(layeredOf(lab)).rejects.toThrow('colour model lab');
  });
});

describe('what was done to layers', () => {
  test.each([
    ['hidden', { ...words, hidden: true }, 'Layer “words” hidden'],
    ['made fainter', { ...words, opacity: 0.6 }, 'Layer “words”: opacity 100 % → 60 %'],
    ['blended otherwise', { ...words, blend: 'screen' }, 'Layer “words”: blending normal → screen'],
    ['renamed', { ...words, name: 'title' }, 'Layer “words” renamed “title”'],
  ])('%s', async (_, to, sentence) =>
    expect(await said(await ora(words, lamp, pier, paper), await ora(to, lamp, pier, paper))).toEqual([sentence]),
  );

  test('deleted, and whether it was hidden then', async () => {
    expect(await said(await ora(words, lamp, paper), await ora(lamp, paper))).toEqual(['Layer “words” deleted']);
    expect(await said(await ora({ ...words, hidden: true }, lamp, paper), await ora(lamp, paper))).toEqual([
      'Layer “words” deleted, was hidden',
    ]);
  });

  test('added beneath others, which stay what they are', async () =>
    expect(await said(await ora(words, paper), await ora(words, lamp, paper))).toEqual(['Layer “lamp” added']));

  test('the order: only what was lifted is named', async () =>
    expect(await said(await ora(words, lamp, pier, paper), await ora(pier, words, lamp, paper))).toEqual([
      'Order changed: layer “pier” is now above “words”, was beneath “lamp”',
    ]));

  test('moved, by how much; several by the same are one cause', async () => {
    const away = (s: Sheet, x: number, y: number, colour: readonly [number, number, number]): Sheet => ({
      ...s,
      data: block([x, y, x + 50, y + 14], colour),
    });
    expect(
      await said(
        await ora(words, away(pier, 10, 30, [96, 80, 62]), paper),
        await ora(words, away(pier, 22, 26, [96, 80, 62]), paper),
      ),
    ).toEqual(['Layer “pier” moved by (12, −4) px']);
    const two = await said(
      await ora(away(words, 4, 4, [20, 30, 40]), away(pier, 10, 30, [96, 80, 62]), paper),
      await ora(away(words, 9, 6, [20, 30, 40]), away(pier, 15, 32, [96, 80, 62]), paper),
    );
    expect(two).toEqual(['2 layers (“words” and “pier”) moved by (5, 2) px']);
  });

  test('the pixels of one layer, seen or not, with the place and the layer', async () => {
    const data = Uint8Array.from(pier.data!);
    for (let y = 34; y < 42; y++) for (let x = 20; x < 34; x++) data.set([200, 40, 40, 255], 4 * (y * W + x));
    const { comparison, outlines: picture } = await comparedFiles(
      input('a.ora', await ora(words, pier, paper)),
      input('b.ora', await ora(words, { ...pier, data }, paper)),
    );
    expect(comparison.causes.map((c) => c.sentence)).toEqual([expect.stringMatching(/ on layer “pier”$/)]);
    const [place] = comparison.changes;
    expect(place?.part.category).toBe('pier');
    expect(place!.boxB![0]).toBeGreaterThan(14);
    expect(place!.boxB![2]).toBeLessThan(40);
    expect(picture.layers?.pairs).toEqual([0, 1, 2]);
  });

  test('one colour for another', async () =>
    expect(
      await said(
        await ora(words, paper),
        await ora(words, { ...paper, data: block([0, 0, W, H], [207, 227, 234], 0) }),
      ),
    ).toEqual(['Layer “paper”: recoloured #f0ece2 → #cfe3ea']));

  test('a group that goes takes its layers along', async () =>
    expect(
      await said(await ora({ name: 'night' }, { ...lamp, group: 0 }, { ...words, group: 0 }, paper), await ora(paper)),
    ).toEqual(['Group “night” deleted, with 2 layers']));

  test('into a group', async () =>
    expect(
      await said(await ora(words, lamp, paper), await ora({ name: 'night' }, words, { ...lamp, group: 0 }, paper)),
    ).toEqual(expect.arrayContaining(['Layer “lamp” put into group “night”'])));

  test('flattened, wholly or in part, while it looks the same; and taken apart again', async () => {
    const layered = await ora(words, lamp, pier, paper);
    const opened = await layeredOf(layered);
    const whole = (await opened.merged()).data as Uint8Array;
    const low = (await opened.compose(new Set([2, 3]))).data as Uint8Array;
    const flat = await ora({ name: 'picture', data: whole });
    expect(await said(layered, flat)).toEqual([
      'Layers flattened: “words”, “lamp”, “pier” and “paper” are one layer now, “picture”; they look the same',
    ]);
    expect(await said(flat, layered)).toEqual([
      'Layer “picture” taken apart: it is “words”, “lamp”, “pier” and “paper” now; they look the same',
    ]);
    expect(await said(layered, await ora(words, lamp, { name: 'ground', data: low }))).toEqual([
      'Layers put together: “pier” and “paper” are one layer now, “ground”; they look the same',
    ]);
  });

  test('against its own export as a flat picture: flattened, and otherwise the same', async () => {
    const layered = await ora(words, lamp, paper);
    const flat = await encodePng((await pictureOf(layered)).bitmap);
    const { comparison } = await comparedFiles(input('poster.ora', layered), input('poster.png', flat));
    expect(comparison.causes[0]?.sentence).toBe('Layers flattened: 3 layers are one picture now');
    expect(comparison.changes).toEqual([]);
  });

  test('cropped: one cause, and no layer is said to have moved', async () => {
    const [width, height] = [320, 240];
    let seed = 7;
    const random = (): number => {
      seed = (Math.imul(seed, 1_103_515_245) + 12_345) & 0x7fffffff;
      return seed;
    };
    const noise = Uint8Array.from({ length: 4 * width * height }, (_, k) => (k % 4 === 3 ? 255 : random() >> 23));
    const ground = await sharp(
      await sharp(noise, { raw: { width, height, channels: 4 } })
        .blur(4)
        .png()
        .toBuffer(),
    )
      .normalise()
      .ensureAlpha()
      .png()
      .toBuffer();
    const sign = await sharp({ create: { width: 60, height: 30, channels: 4, background: '#802040' } })
      .png()
      .toBuffer();
    const made = async (cut: number): Promise<Uint8Array> =>
      makeOra(width - cut, height - cut, 150, [
        {
          name: 'sign',
          group: -1,
          hidden: false,
          opacity: 1,
          blend: 'normal',
          pixels: { png: new Uint8Array(sign), x: 100 - cut, y: 90 - cut },
        },
        {
          name: 'ground',
          group: -1,
          hidden: false,
          opacity: 1,
          blend: 'normal',
          pixels: {
            png: new Uint8Array(
              await sharp(ground)
                .extract({ left: cut, top: cut, width: width - cut, height: height - cut })
                .png()
                .toBuffer(),
            ),
            x: 0,
            y: 0,
          },
        },
      ]);
    expect(await said(await made(0), await made(24))).toEqual([
      expect.stringMatching(/^Cropped: 320 × 240 → 296 × 216 px, 24 px at the left, 24 px at the top cut off/),
    ]);
  });

  test('a layer whose pixels are damaged does not stop the comparison', async () => {
    const members = unzipSync(await ora({ ...words, name: 'title' }, lamp, paper));
    const png = members['data/layer000.png'] as Uint8Array;
    // The header stays, what follows is nonsense.
    members['data/layer000.png'] = Uint8Array.from(png, (v, k) => (k > 120 && k < png.length - 12 ? 0x5a : v));
    const { comparison } = await comparedFiles(
      input('a.ora', await ora(words, lamp, paper)),
      input('b.ora', zipSync({ mimetype: [strToU8('image/openraster'), { level: 0 }], ...members })),
    );
    expect(comparison.level).toBe('pixels');
    expect([...comparison.notes, ...comparison.b.notes, ...comparison.causes.map((c) => c.sentence)]).toEqual([
      expect.stringMatching(
        /^The layers could not be compared, so the pictures are compared as they are seen\. The pixels of layer “title” are damaged\.$/,
      ),
    ]);
  });

  test('nothing at all, saved anew', async () =>
    expect(await said(await ora(words, paper), zipSync(unzipSync(await ora(words, paper)), { level: 9 }))).toEqual([]));
});
