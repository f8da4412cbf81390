import sharp, { type Sharp } from 'sharp';
import { ReadError } from '../model/problem.ts';
import { open } from '../kinds/content.ts';
import { comparedFiles, factsOf, pictureOf } from '../testing.ts';
import { encodePng, hatched } from './pictures.ts';
import { profileName } from './profile.ts';

const WIDTH = 96;
const HEIGHT = 64;
const raw = (paint: (x: number, y: number) => number): Buffer =>
  Buffer.from(
    Uint8Array.from(
      { length: WIDTH * HEIGHT * 3 },
      (_, k) => paint(Math.floor(k / 3) % WIDTH, Math.floor(k / 3 / WIDTH)) + (k % 3) * 8,
    ),
  );
const image = (paint: (x: number, y: number) => number = (x, y) => (((x >> 3) + (y >> 3)) % 2) * 120 + x): Sharp =>
  sharp(raw(paint), { raw: { width: WIDTH, height: HEIGHT, channels: 3 } });
const input = (name: string, bytes: Uint8Array) => [name, bytes] as const;

describe('decoding', () => {
  test.each(['png', 'jpeg', 'webp', 'avif', 'tiff', 'gif'] as const)(
    '%s: size, and colours near to what was saved',
    async (format) => {
      const bytes = await image()
        .toFormat(format, format === 'gif' ? {} : { quality: 95 })
        .toBuffer();
      const { bitmap, notes } = await pictureOf(bytes);
      expect([bitmap.width, bitmap.height, notes]).toEqual([WIDTH, HEIGHT, []]);
      const p = 4 * (20 * WIDTH + 50);
      const want = (((50 >> 3) + (20 >> 3)) % 2) * 120 + 50;
      expect(Math.abs((bitmap.data[p] ?? 0) - want)).toBeLessThan(14);
      expect(bitmap.data[p + 3]).toBe(255);
    },
  );

  test('upright, whatever way the camera was held', async () => {
    const { bitmap, notes } = await pictureOf(await image().jpeg().withMetadata({ orientation: 6 }).toBuffer());
    expect([bitmap.width, bitmap.height]).toEqual([HEIGHT, WIDTH]);
    expect(notes).toEqual([expect.stringContaining('shown upright')]);
  });

  test('16 bits, pages, resolution, profile and transparency are said', async () => {
    expect(await factsOf(await image().toColourspace('rgb16').png().toBuffer())).toMatchObject({
      depth: 16,
      pages: 1,
      density: undefined,
    });
    expect(
      await factsOf(await image().withMetadata({ density: 300 }).withIccProfile('p3').png().toBuffer()),
    ).toMatchObject({ density: 300, profile: expect.stringMatching(/P3/i) });
    expect((await pictureOf(await image().ensureAlpha(0.5).png().toBuffer())).transparent).toBe(true);
    expect((await pictureOf(await image().ensureAlpha(1).png().toBuffer())).transparent).toBe(false);
  });

  test('CMYK comes as people see it', async () => {
    const bytes = await sharp({ create: { width: 8, height: 8, channels: 3, background: '#c02020' } })
      .toColourspace('cmyk')
      .jpeg({ quality: 100 })
      .toBuffer();
    const { bitmap, colours } = await pictureOf(bytes);
    expect(colours).toBe('cmyk');
    expect(bitmap.data[0]! - bitmap.data[1]!).toBeGreaterThan(90);
  });

  test('there and back as PNG', async () => {
    const { bitmap } = await pictureOf(await image().png().toBuffer());
    const again = await pictureOf(await encodePng(bitmap));
    expect(Buffer.from(again.bitmap.data).equals(Buffer.from(bitmap.data))).toBe(true);
  });
});

describe('bad input', () => {
  test('a JPEG that was cut off is shown as far as it goes, and says so', async () => {
    const whole = await sharp(
      raw((x, y) => (x * 7 + y * 13) % 200),
      { raw: { width: WIDTH, height: HEIGHT, channels: 3 } },
    )
      .jpeg({ quality: 90 })
      .toBuffer();
    const { bitmap, notes } = await pictureOf(whole.subarray(0, Math.floor(whole.length * 0.5)));
    expect([bitmap.width, bitmap.height]).toEqual([WIDTH, HEIGHT]);
    expect(notes[0]).toMatch(
      /^The picture is damaged \(the file ends too early\)\. About \d+ % at its lower end could not be decoded; it is shown hatched\.$/,
    );
  });

  test('more megapixels than are looked into are refused in a sentence, before anything is decoded', async () => {
    // A header alone: 60,000 × 60,000.
    const header = Buffer.concat([
      Buffer.from('89504e470d0a1a0a0000000d49484452', 'hex'),
      Buffer.from([0, 0, 0xea, 0x60, 0, 0, 0xea, 0x60, 8, 2, 0, 0, 0]),
      Buffer.from('deadbeef', 'hex'),
    ]);
    await expect(factsOf(header)).rejects.toThrow(ReadError);
  });

  test('a bomb: a small file of very many pixels', async () => {
    const bomb = await sharp({ create: { width: 16_000, height: 16_000, channels: 3, background: '#fff' } })
      .png({ compressionLevel: 9, palette: true, colours: 2 })
      .toBuffer();
    expect(bomb.length).toBeLessThan(200_000);
    await expect(pictureOf(bomb)).rejects.toThrow(
      'The picture has 256 megapixels, which is more than the 110 that Ovrel looks into.',
    );
  });

  test('noise with the name of a picture', async () => {
    const noise = Uint8Array.from({ length: 400 }, (_, k) => (k * 7919) % 251);
    expect(await open(noise, 'quay.png')).toMatchObject({
      kinds: ['bytes'],
      problem: { sentence: 'The name says PNG picture, but its content is of no kind that Ovrel knows.' },
    });
    await expect(pictureOf(noise)).rejects.toThrow(ReadError);
    expect(profileName(new Uint8Array(200))).toBeUndefined();
  });
});

describe('comparing', () => {
  const png = (paint?: (x: number, y: number) => number): Promise<Buffer> => image(paint).png().toBuffer();

  test('by pixels, across formats', async () => {
    const {
      comparison,
      outlines: picture,
      map,
    } = await comparedFiles(
      input('a.png', await png()),
      input('b.tiff', await image().tiff({ compression: 'lzw' }).toBuffer()),
    );
    expect(comparison).toMatchObject({
      level: 'pixels',
      unit: 'px',
      changes: [],
      summary: 'Saved as TIFF, before as PNG',
    });
    expect(picture.laid).toMatchObject({ matrix: [1, 0, 0, 1, 0, 0], found: true, sizeA: [WIDTH, HEIGHT] });
    expect(map).toHaveLength(2 * (WIDTH / 4) * (HEIGHT / 4));
  });

  test('one that cannot be decoded leaves the bytes, and the sentence says why', async () => {
    const good = await png();
    const { comparison } = await comparedFiles(
      input('a.png', good),
      input('b.png', Uint8Array.from(good.subarray(0, 40))),
    );
    expect(comparison.level).toBe('bytes');
    expect(comparison.notes[0]).toMatch(/^The newer picture could not be looked into\. The picture cannot be/);
  });

  test('a place that was painted over has its box on both sides, and a cause', async () => {
    const { comparison, outlines: picture } = await comparedFiles(
      input('a.png', await png()),
      input(
        'b.png',
        await png((x, y) => (x >= 40 && x < 56 && y >= 24 && y < 40 ? 5 : (((x >> 3) + (y >> 3)) % 2) * 120 + x)),
      ),
    );
    expect(comparison.changes).toHaveLength(1);
    expect(comparison.changes[0]).toMatchObject({ boxB: [40, 24, 56, 40], part: { kind: 'place', page: 'Picture' } });
    expect(comparison.causes[0]?.changes).toEqual(['c1']);
    expect(Object.keys(picture.outlines)).toEqual(['c1']);
  });
});

describe('several pages', () => {
  const pages = async (...marks: boolean[]): Promise<Uint8Array> => {
    const list = await Promise.all(
      marks.map((mark, k) =>
        image((x, y) =>
          mark && x > 40 && x < 60 && y > 20 && y < 40 ? 240 : (((x >> 3) + (y >> 3) * (k + 2)) % 3) * 70 + x / 2,
        )
          .png()
          .toBuffer(),
      ),
    );
    return new Uint8Array(
      await sharp(list, { join: { animated: true } })
        .tiff({ compression: 'lzw' })
        .toBuffer(),
    );
  };

  test('each is decoded, and compared with the one at its place', async () => {
    const a = await pages(false, false, false);
    const b = await pages(false, true, false);
    expect((await factsOf(a)).pages).toBe(3);
    expect((await pictureOf(a, 1)).bitmap.data).not.toEqual((await pictureOf(a, 0)).bitmap.data);
    const { comparison, outlines: picture } = await comparedFiles(input('a.tif', a), input('b.tif', b));
    expect(comparison.causes.map((c) => c.sentence)).toEqual([expect.stringMatching(/ on “Page 2”$/)]);
    expect(comparison.changes.map((c) => c.part.page)).toEqual(['Page 2']);
    expect([picture.pages.b.map((p) => p.name), Object.keys(picture.laidOn ?? {})]).toEqual([
      ['Page 1', 'Page 2', 'Page 3'],
      ['Page 1', 'Page 2', 'Page 3'],
    ]);
  });

  test('a page more is said', async () =>
    expect(
      (
        await comparedFiles(input('a.tif', await pages(false, false)), input('b.tif', await pages(false, false, false)))
      ).comparison.causes.map((c) => c.sentence),
    ).toEqual(['Page 3 added']));
});

test('what could not be decoded is hatched, and no change', async () => {
  const whole = await sharp(
    Buffer.from(
      Uint8Array.from(
        { length: 320 * 240 * 3 },
        (_, k) => 60 + ((Math.floor(k / 48) * 37 + Math.floor(k / 15_360) * 61) % 120),
      ),
    ),
    { raw: { width: 320, height: 240, channels: 3 } },
  )
    .jpeg({ quality: 92 })
    .toBuffer();
  const cut = whole.subarray(0, Math.floor(whole.length * 0.5));
  const picture = await pictureOf(cut);
  const { data, width, height } = hatched(picture);
  expect(picture.lostFrom).toBeGreaterThan(60);
  expect(picture.lostFrom).toBeLessThan(200);
  const last = new Set(Array.from({ length: width }, (_, x) => data[4 * ((height - 2) * width + x)]));
  expect([...last].sort()).toEqual([180, 244]);
  expect((await comparedFiles(input('a.jpg', whole), input('b.jpg', cut))).comparison.changes).toEqual([]);
});
