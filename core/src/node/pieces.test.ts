/** Files that are put together from layers, pages and pixels. */
import { strFromU8, unzipSync } from 'fflate';
import { PDFDocument } from 'pdf-lib';
import sharp from 'sharp';
import {
  carryOver,
  compareFiles,
  drawnFirst,
  drawnNext,
  followed,
  joinFiles,
  open,
  ReadError,
  stepInto,
  takeBackChanges,
  type Content,
  type DrawnBy,
  type Followed,
  type Joined,
} from '../index.ts';
import { readOra } from '../formats/ora/read.ts';
import { defaultLimits } from '../model/limits.ts';
import { makeOra, type NewLayer } from './layered.ts';
import { encodePng } from './pictures.ts';
import './engines.ts';

const W = 96;
const H = 64;
type Colour = readonly [number, number, number];
type Rectangle = readonly [left: number, top: number, right: number, bottom: number];

const painted = (...blocks: readonly (readonly [Rectangle, Colour])[]): Uint8Array => {
  const data = new Uint8Array(W * H * 4);
  for (const [[x0, y0, x1, y1], colour] of blocks)
    for (let y = y0; y < y1; y++) for (let x = x0; x < x1; x++) data.set([...colour, 255], 4 * (y * W + x));
  return data;
};

const all: Rectangle = [0, 0, W, H];
const paper: Colour = [240, 236, 226];
const ink: Colour = [20, 30, 40];
const rust: Colour = [150, 70, 40];
const sea: Colour = [40, 90, 150];

interface Sheet {
  readonly name: string;
  readonly data: Uint8Array;
  readonly opacity?: number;
}

const layer = async ({ name, data, opacity = 1 }: Sheet): Promise<NewLayer> => ({
  name,
  group: -1,
  hidden: false,
  opacity,
  blend: 'normal',
  pixels: { png: await encodePng({ width: W, height: H, data }), x: 0, y: 0 },
});

const poster = async (...sheets: readonly Sheet[]): Promise<Content> =>
  open(await makeOra(W, H, undefined, await Promise.all(sheets.map(layer))), 'poster.ora');

const ground: Sheet = { name: 'paper', data: painted([all, paper]) };
const pier: Sheet = { name: 'pier', data: painted([[10, 30, 60, 44], rust]) };
const lamp: Sheet = { name: 'lamp', data: painted([[70, 10, 78, 40], ink]) };
const bluePier: Sheet = { name: 'pier', data: painted([[10, 30, 60, 44], sea]) };
const tallLamp: Sheet = { name: 'lamp', data: painted([[70, 4, 78, 40], ink]) };

const namesIn = ({ bytes }: Pick<Joined, 'bytes'>): string[] => readOra(bytes, defaultLimits).layers.map((l) => l.name);

/** What of a picture is seen at a point. */
async function seenAt({ bytes }: Pick<Joined, 'bytes'>, x: number, y: number): Promise<number[]> {
  const files = unzipSync(bytes);
  const { data, info } = await sharp(files['mergedimage.png']).raw().toBuffer({ resolveWithObject: true });
  return [...data.subarray(info.channels * (y * info.width + x), info.channels * (y * info.width + x) + 3)];
}

const changesOf = async (a: Content, b: Content): Promise<Parameters<typeof takeBackChanges>[3]> => {
  const compared = await compareFiles(a, b);
  return { compared, changes: compared.comparison.changes.map((_, k) => k) };
};

describe('pictures with layers', () => {
  test('two people painted on different layers: both are seen, and all other members are as they were', async () => {
    const base = await poster(lamp, pier, ground);
    const ours = await poster(lamp, bluePier, ground);
    const theirs = await poster(tallLamp, pier, ground);
    const joined = await joinFiles(base, ours, theirs);
    expect(joined.clashes).toEqual([]);
    expect(await seenAt(joined, 30, 36)).toEqual([...sea]);
    expect(await seenAt(joined, 74, 6)).toEqual([...ink]);
    const [was, is] = [unzipSync(ours.bytes), unzipSync(joined.bytes)];
    expect(is['data/layer001.png']).toEqual(was['data/layer001.png']);
    expect(is['data/layer002.png']).toEqual(was['data/layer002.png']);
    expect(Object.keys(is)[0]).toBe('mimetype');
  });

  test('both painted one layer: a clash, and either can be taken', async () => {
    const base = await poster(lamp, pier, ground);
    const ours = await poster(lamp, bluePier, ground);
    const theirs = await poster(lamp, { ...pier, data: painted([[10, 30, 60, 52], rust]) }, ground);
    const kept = await joinFiles(base, ours, theirs);
    expect(kept.clashes.map((c) => [c.kind, c.ours?.part.name])).toEqual([['both-changed', 'pier']]);
    expect(await seenAt(await joinFiles(base, ours, theirs, { prefer: 'theirs' }), 30, 50)).toEqual([...rust]);
  });

  test('one made a layer lighter, the other painted it: both can be had', async () => {
    const base = await poster(lamp, pier, ground);
    const ours = await poster(lamp, bluePier, ground);
    const theirs = await poster(lamp, { ...pier, opacity: 0.5 }, ground);
    const both = await joinFiles(base, ours, theirs, { prefer: 'both' });
    const [, lighter] = readOra(both.bytes, defaultLimits).layers;
    expect(lighter?.opacity).toBe(0.5);
    expect(strFromU8(unzipSync(both.bytes)['stack.xml'] as Uint8Array)).not.toMatch(/src="[0-9a-f]{16}"/);
  });

  test('a layer that was taken out comes back at its place, as it was', async () => {
    const before = await poster(lamp, pier, ground);
    const after = await poster(lamp, ground);
    const newest = await poster(tallLamp, ground);
    const result = await takeBackChanges(before, after, newest, await changesOf(before, after));
    expect(namesIn(result)).toEqual(['lamp', 'pier', 'paper']);
    expect(await seenAt(result, 74, 6)).toEqual([...ink]);
    expect(await seenAt(result, 30, 36)).toEqual([...rust]);
  });

  test('a layer of another picture is carried over by its name', async () => {
    const other = await poster({ name: 'gull', data: painted([[2, 2, 12, 8], sea]) }, ground);
    const into = await poster(lamp, ground);
    const result = await carryOver(other, into, { layers: ['gull'], asNew: true });
    expect(namesIn(result)).toContain('gull');
    expect(await seenAt(result, 5, 5)).toEqual([...sea]);
  });
});

describe('documents', () => {
  const document = async (...words: readonly string[]): Promise<Content> => {
    const pdf = await PDFDocument.create();
    for (const word of words) pdf.addPage([300, 200]).drawText(word, { x: 20, y: 100, size: 18 });
    return open(new Uint8Array(await pdf.save()), 'method.pdf');
  };
  const pagesOf = async ({ bytes }: Joined): Promise<string[]> => {
    const { design } = await open(bytes, 'method.pdf');
    return (design?.pages ?? []).map((_, page) =>
      (design?.parts ?? [])
        .filter((part) => part.page === page)
        .flatMap((part) => part.lettering?.runs.map((run) => run.text) ?? [])
        .join(' '),
    );
  };

  test('pages that either side wrote, put in or took out are so in the result', async () => {
    const base = await document('Scope', 'Lifting the gangway', 'Tides', 'Waste');
    const ours = await document('Scope of works', 'Lifting the gangway', 'Tides', 'Waste');
    const theirs = await document('Scope', 'Lifting the gangway', 'Night work', 'Tides and wind');
    const joined = await joinFiles(base, ours, theirs);
    expect(joined.clashes).toEqual([]);
    expect(await pagesOf(joined)).toEqual(['Scope of works', 'Lifting the gangway', 'Night work', 'Tides and wind']);
  });

  test('a page of an older version is had again, behind the same neighbour', async () => {
    const older = await document('Scope', 'Lifting the gangway', 'Tides');
    const newest = await document('Scope', 'Tides', 'Waste');
    const result = await carryOver(older, newest, { pages: [1], asNew: false });
    expect(await pagesOf(result)).toEqual(['Scope', 'Lifting the gangway', 'Tides', 'Waste']);
  });

  test('what was done to one page is taken back with all of that page, and later pages stay', async () => {
    const before = await document('Scope', 'Tides', 'Waste');
    const after = await document('Scope', 'Tides at night', 'Waste');
    const newest = await document('Scope', 'Tides at night', 'Waste', 'Signs');
    const result = await takeBackChanges(before, after, newest, await changesOf(before, after));
    expect(await pagesOf(result)).toEqual(['Scope', 'Tides', 'Waste', 'Signs']);
  });
});

describe('flat pictures', () => {
  const picture = async (name: string, data: Uint8Array): Promise<Content> => {
    const raw = sharp(data, { raw: { width: W, height: H, channels: 4 } });
    if (name.endsWith('.png')) return open(new Uint8Array(await raw.png().toBuffer()), name);
    return open(new Uint8Array(await raw.tiff({ compression: 'lzw', predictor: 'horizontal' }).toBuffer()), name);
  };
  const colourAt = async ({ bytes }: Pick<Joined, 'bytes'>, x: number, y: number): Promise<number[]> => {
    const { data, info } = await sharp(bytes).raw().toBuffer({ resolveWithObject: true });
    return [...data.subarray(info.channels * (y * info.width + x), info.channels * (y * info.width + x) + 3)];
  };
  const plain = painted([all, paper]);
  const pierLeft = painted([all, paper], [[8, 8, 30, 20], rust]);
  const lampRight = painted([all, paper], [[70, 40, 80, 60], ink]);

  test.each(['season.png', 'season.tif'])(
    '%s: what two people painted in different places is all there',
    async (name) => {
      const [base, ours, theirs] = [
        await picture(name, plain),
        await picture(name, pierLeft),
        await picture(name, lampRight),
      ];
      const joined = await joinFiles(base, ours, theirs);
      expect(joined.clashes).toEqual([]);
      expect(await colourAt(joined, 12, 12)).toEqual([...rust]);
      expect(await colourAt(joined, 75, 50)).toEqual([...ink]);
      expect(await colourAt(joined, 50, 30)).toEqual([...paper]);
    },
  );

  test('both painted one place: a clash with its place, decided either way', async () => {
    const rival = painted([all, paper], [[20, 10, 40, 30], sea]);
    const [base, ours, theirs] = [
      await picture('season.png', plain),
      await picture('season.png', pierLeft),
      await picture('season.png', rival),
    ];
    const kept = await joinFiles(base, ours, theirs);
    expect(kept.clashes).toHaveLength(1);
    expect(kept.clashes[0]?.theirs?.box).toEqual([16, 8, 40, 32]);
    expect(await colourAt(kept, 25, 15)).toEqual([...rust]);
    const other = await joinFiles(base, ours, theirs, { prefer: 'theirs' });
    expect(await colourAt(other, 25, 15)).toEqual([...sea]);
    expect(await colourAt(other, 10, 10)).toEqual([...paper]);
  });

  test('one of two places is taken back, and what was painted later stays', async () => {
    const before = await picture('season.png', plain);
    const after = await picture('season.png', painted([all, paper], [[8, 8, 30, 20], rust], [[70, 40, 80, 60], ink]));
    const newest = await picture(
      'season.png',
      painted([all, paper], [[8, 8, 30, 20], rust], [[70, 40, 80, 60], ink], [[40, 2, 52, 6], sea]),
    );
    const compared = await compareFiles(before, after);
    const left = compared.comparison.changes.findIndex((c) => (c.boxB?.[0] ?? 99) < 40);
    const result = await takeBackChanges(before, after, newest, { compared, changes: [left] });
    expect(await colourAt(result, 12, 12)).toEqual([...paper]);
    expect(await colourAt(result, 75, 50)).toEqual([...ink]);
    expect(await colourAt(result, 45, 4)).toEqual([...sea]);
  });

  test('a rectangle is carried over to the pixel', async () => {
    const from = await picture('season.png', pierLeft);
    const into = await picture('season.png', lampRight);
    const result = await carryOver(from, into, { boxes: [[8, 8, 13, 20]] });
    expect(await colourAt(result, 12, 12)).toEqual([...rust]);
    expect(await colourAt(result, 13, 12)).toEqual([...paper]);
    expect(await colourAt(result, 75, 50)).toEqual([...ink]);
  });

  test('all that a picture says beside its pixels stays, byte for byte', async () => {
    const file = async (data: Uint8Array): Promise<Content> =>
      open(
        new Uint8Array(
          await sharp(data, { raw: { width: W, height: H, channels: 4 } })
            .withIccProfile('p3')
            .withMetadata({ density: 300 })
            .png()
            .toBuffer(),
        ),
        'sign.png',
      );
    const chunks = (bytes: Uint8Array): Map<string, string> => {
      const found = new Map<string, string>();
      const whole = Buffer.from(bytes);
      for (let at = 8; at < whole.length; at += 12 + whole.readUInt32BE(at))
        found.set(
          whole.toString('latin1', at + 4, at + 8),
          whole.toString('hex', at, at + 12 + whole.readUInt32BE(at)),
        );
      found.delete('IDAT');
      return found;
    };
    const into = await file(lampRight);
    const carried = await carryOver(await file(pierLeft), into, { boxes: [[0, 0, 40, 40]] });
    expect(carried.changed).toBe(true);
    expect(chunks(carried.bytes)).toEqual(chunks(into.bytes));
    expect([...chunks(into.bytes).keys()]).toEqual(expect.arrayContaining(['iCCP', 'pHYs']));
  });

  test('a few bytes that claim a vast picture are refused with a sentence, and nothing is made', async () => {
    const honest = await picture('season.png', plain);
    const vast = honest.bytes.slice();
    new DataView(vast.buffer).setUint32(16, 2_000_000_000);
    const claimed = { ...honest, bytes: vast };
    await expect(carryOver(claimed, honest, { boxes: [[0, 0, 8, 8]] })).rejects.toThrow('megapixels');
    const cut = { ...honest, bytes: honest.bytes.subarray(0, honest.bytes.length - 40) };
    await expect(carryOver(cut, honest, { boxes: [[0, 0, 8, 8]] })).rejects.toThrow(ReadError);
  });

  test('pictures of two sizes are joined as a whole or not at all, and nothing is carried over', async () => {
    const small = await open(
      new Uint8Array(
        await sharp({ create: { width: 40, height: 30, channels: 4, background: '#123' } })
          .png()
          .toBuffer(),
      ),
      'season.png',
    );
    const base = await picture('season.png', plain);
    const joined = await joinFiles(base, await picture('season.png', pierLeft), small);
    expect(joined.clashes.map((c) => c.kind)).toEqual(['whole-file']);
    await expect(carryOver(small, base, { boxes: [[0, 0, 8, 8]] })).rejects.toThrow('not of one size');
  });
});

describe('who painted what', () => {
  const drawnThrough = async (contents: readonly Content[]): Promise<DrawnBy & { readonly now: Followed }> => {
    const all = await Promise.all(contents.map(followed));
    let drawn: DrawnBy | undefined;
    let before: Followed | undefined;
    for (const [k, now] of all.entries()) {
      if (!now) throw new Error('pictures can be followed');
      const step = before && (await stepInto(before, now));
      drawn =
        drawn && before && step
          ? drawnNext({ version: `v${k}`, drawn, design: before.design }, step, {
              version: `v${k + 1}`,
              design: now.design,
            })
          : drawnFirst(`v${k + 1}`, now.design);
      before = now;
    }
    if (!drawn || !before) throw new Error('there is no version');
    return { ...drawn, now: before };
  };
  const storyOf = ({ parts, versions }: DrawnBy, k: number): string[] => (parts[k] ?? []).map((v) => versions[v] ?? '');

  test('of a flat picture each square tells which versions painted it', async () => {
    const picture = async (...blocks: readonly (readonly [Rectangle, Colour])[]): Promise<Content> =>
      open(await encodePng({ width: W, height: H, data: painted([all, paper], ...blocks) }), 'season.png');
    const drawn = await drawnThrough([
      await picture(),
      await picture([[0, 0, 16, 16], rust]),
      await picture([[0, 0, 16, 16], rust], [[80, 48, 96, 64], ink]),
    ]);
    expect(storyOf(drawn, 0)).toEqual(['v1', 'v2']);
    expect(storyOf(drawn, 1)).toEqual(['v1']);
    expect(storyOf(drawn, drawn.parts.length - 1)).toEqual(['v1', 'v3']);
  });

  test('of layers, through renaming and painting; what is gone is told', async () => {
    const drawn = await drawnThrough([
      await poster(lamp, pier, ground),
      await poster(lamp, bluePier, ground),
      await poster(bluePier, ground),
    ]);
    expect(drawn.now.design.parts.map((part, k) => [part.name, storyOf(drawn, k)])).toEqual([
      ['pier', ['v1', 'v2']],
      ['paper', ['v1']],
    ]);
    expect(drawn.gone.map((part) => [part.name, drawn.versions[part.out]])).toEqual([['lamp', 'v3']]);
  });
});
